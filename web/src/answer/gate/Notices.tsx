/** What the gate says beside a page, each from one moment to another by this device's clock. */
import { useEffect, useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Strip } from "../../ui/Strip";

type Notice = Schema<"GateNoticeOut">;

const Whole = styled.div`
  display: grid;
  gap: 6px;
  margin-top: 14px;
  &:empty {
    display: none;
  }
`;

/** Milliseconds that a timer can wait for at most. */
const LONGEST = 2 ** 31 - 1;

/** The moment, again when one of these comes; none where the page is drawn beforehand. */
function useNow(moments: readonly number[]): number {
  const [now, setNow] = useState(0);
  const next = moments.filter((one) => one > now).sort((one, other) => one - other)[0];
  useEffect(() => {
    const wait = now === 0 || next === undefined ? 0 : Math.min(next - Date.now(), LONGEST);
    if (now !== 0 && next === undefined) return;
    const timer = setTimeout(() => setNow(Date.now()), Math.max(wait, 0));
    return () => clearTimeout(timer);
  }, [now, next]);
  return now;
}

export function Notices({ notices }: { notices: readonly Notice[] }) {
  const times = notices.flatMap(({ since, until }) =>
    [since, until].filter((one) => one != null).map((one) => Date.parse(one)),
  );
  const now = useNow(times);
  const shown = notices.filter(
    ({ since, until }) => now >= Date.parse(since) && (until == null || now < Date.parse(until)),
  );
  return (
    <Whole role="status">
      {now ? shown.map(({ says }) => <Strip key={says}>{says}</Strip>) : null}
    </Whole>
  );
}
