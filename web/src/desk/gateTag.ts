/** How a gate stands in a word or two: its arm, and what is said beside it. */
import type { Schema } from "../client/client";
import type { ArmState } from "../ui/Arm";
import { whenAmid } from "./when";

type Line = Pick<Schema<"SummaryOut">, "stands" | "changes">;

const ARMS: Readonly<Record<Line["stands"], ArmState>> = {
  open: "open",
  held: "held",
  shut: "shut",
  closed: "shut",
  full: "shut",
};

export function gateTag({ stands, changes }: Line): { state: ArmState; words: string } {
  const state = ARMS[stands];
  switch (stands) {
    case "open":
      return { state, words: changes ? `Open until ${whenAmid(changes)}` : "Open" };
    case "held":
      return { state, words: "On hold" };
    case "shut":
      return { state, words: "Shut" };
    case "closed":
      return { state, words: changes ? `Opens ${whenAmid(changes)}` : "Its time is over" };
    case "full":
      return { state, words: "Full" };
  }
}
