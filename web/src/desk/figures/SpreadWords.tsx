/** What numbers are like, in a sentence. */
import styled from "styled-components";

import type { Spread } from "./data";
import { number } from "./words";

const Said = styled.p`
  margin-block-start: 6px;
  color: var(--ink-2);
  font-size: 13.5px;
`;

export function SpreadWords({ of }: { of: Spread }) {
  const { mean_low: low, mean_high: high } = of;
  const around =
    low !== null && high !== null && high > low ? ` ± ${number((high - low) / 2)}` : "";
  return (
    <Said>
      Median {number(of.median)}, middle half {number(of.lower)} to {number(of.upper)}, all{" "}
      {number(of.smallest)} to {number(of.largest)}; mean {number(of.mean)}
      {around}
    </Said>
  );
}
