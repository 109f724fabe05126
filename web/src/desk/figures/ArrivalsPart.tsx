/** When entries arrived: over time, and by the hour of the day. */
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import type { Schema } from "../../client/client";
import { BinsPicture } from "./BinsPicture";
import { Group } from "./Two";

const Both = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 280px), 1fr));
  gap: 10px 28px;
  padding-block: 14px 16px;
  h3 {
    font-size: 16px;
    font-family: var(--body);
    letter-spacing: 0;
    margin-block-end: 8px;
  }
  > div {
    min-width: 0;
  }
`;

type Arrivals = Schema<"Arrivals">;

interface ArrivalsPartProps {
  arrivals: Arrivals;
  /** When the others arrived. */
  beside?: Arrivals | null | undefined;
}

function Pictures({ arrivals }: { arrivals: Arrivals }) {
  return (
    <Both>
      <div>
        <h3>Over time</h3>
        <BinsPicture picture={arrivals.over_time} name="Arrivals over time" />
      </div>
      <div>
        <h3>By the hour of the day</h3>
        <BinsPicture picture={arrivals.by_hour} name="Arrivals by the hour" />
      </div>
    </Both>
  );
}

export function ArrivalsPart({ arrivals, beside }: ArrivalsPartProps) {
  return (
    <section aria-label="When they arrived">
      <h2 id="arrivals">When they arrived</h2>
      {beside ? (
        <>
          <Group label="These">
            <Pictures arrivals={arrivals} />
          </Group>
          <Group label="Beside them" isBeside>
            <Pictures arrivals={beside} />
          </Group>
        </>
      ) : (
        <Pictures arrivals={arrivals} />
      )}
      <Quiet>Days and hours are those in {arrivals.zone}.</Quiet>
    </section>
  );
}
