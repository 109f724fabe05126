/** Options with how many picked each: a table whose bars are drawn, so it reads the same aloud. */
import styled from "styled-components";

import { Unseen } from "../../ui/text";
import type { Bar, Bars } from "./data";
import { Noted } from "./Noted";
import { SpreadWords } from "./SpreadWords";
import { useNamed } from "./Two";
import { between, many, percent } from "./words";

const Rows = styled.table`
  border-collapse: collapse;
  width: 100%;
  th {
    font-weight: 400;
    text-align: start;
    padding: 3px 14px 3px 0;
    width: 26%;
    min-width: 96px;
    overflow-wrap: anywhere;
    vertical-align: middle;
  }
  td {
    padding: 3px 0;
    vertical-align: middle;
  }
  td:nth-child(n + 3) {
    text-align: end;
    white-space: nowrap;
    width: 1%;
    padding-inline-start: 12px;
  }
  tr[data-none] {
    color: var(--ink-2);
  }
`;

const Track = styled.div`
  position: relative;
  height: 15px;
  background: var(--mist);
  > i {
    position: absolute;
    inset-block: 0;
    inset-inline-start: 0;
    background: var(--accent-mid);
    forced-color-adjust: none;
  }
`;

/** From the lower to the upper end of the interval. */
const Likely = styled.b`
  position: absolute;
  inset-block: 4px;
  border: 1.5px solid var(--ink);
  border-block-width: 0;
  &::after {
    content: "";
    position: absolute;
    inset-inline: 0;
    top: calc(50% - 0.75px);
    border-top: 1.5px solid var(--ink);
  }
`;

function BarTrack({ share, low, high }: Pick<Bar, "share" | "low" | "high">) {
  return (
    <Track aria-hidden>
      <i style={{ width: `${100 * share}%` }} />
      <Likely
        style={{
          insetInlineStart: `${100 * low}%`,
          width: `${100 * Math.max(high - low, 0.002)}%`,
        }}
      />
    </Track>
  );
}

interface BarsPictureProps {
  picture: Bars;
  name: string;
}

export function BarsPicture({
  picture: { bars, picks, spread, bottom, top },
  name: called,
}: BarsPictureProps) {
  const name = useNamed(called);
  return (
    <>
      <Rows aria-label={name}>
        <Unseen as="thead">
          <tr>
            <th scope="col">Answer</th>
            <td>Picture</td>
            <th scope="col">Number</th>
            <th scope="col">Share</th>
          </tr>
        </Unseen>
        <tbody>
          {bars.map((bar, at) => (
            <tr key={at} data-none={bar.count ? undefined : true}>
              <th scope="row">{bar.label}</th>
              <td>
                <BarTrack {...bar} />
              </td>
              <td>{many(bar.count)}</td>
              <td title={`95 %: ${between(bar.low, bar.high)}`}>{percent(bar.share)}</td>
            </tr>
          ))}
        </tbody>
      </Rows>
      {picks !== null && picks !== undefined ? (
        <Noted>{many(picks)} picks; whoever picked several counts with each.</Noted>
      ) : null}
      {bottom && top ? (
        <Noted>
          {bottom.label}: {percent(bottom.share)}, {top.label}: {percent(top.share)}
        </Noted>
      ) : null}
      {spread ? <SpreadWords of={spread} /> : null}
    </>
  );
}
