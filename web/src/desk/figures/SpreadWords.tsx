/** What numbers are like, in a sentence. */
import type { Spread } from "./data";
import { Noted } from "./Noted";
import { number } from "./words";

export function SpreadWords({ of }: { of: Spread }) {
  const { mean_low: low, mean_high: high } = of;
  const around =
    low !== null && high !== null && high > low ? ` ± ${number((high - low) / 2)}` : "";
  return (
    <Noted>
      Median {number(of.median)}, middle half {number(of.lower)} to {number(of.upper)}, all{" "}
      {number(of.smallest)} to {number(of.largest)}; mean {number(of.mean)}
      {around}
    </Noted>
  );
}
