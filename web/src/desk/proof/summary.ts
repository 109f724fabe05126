/** How the branching stands, in words. */
import type { Schema } from "../../client/client";
import { count } from "../document";

type Proof = Schema<"ProofOut">;

interface Told {
  findings?: readonly Schema<"FindingOut">[];
  open?: readonly Schema<"NamedPlace">[];
}

/** How many findings are wrong and how many are advice, and the tone in which that is told. */
export function weighed({ findings = [], open = [] }: Told) {
  const wrong = findings.filter(({ level }) => level === "wrong").length;
  const advice = findings.length - wrong;
  const tone = wrong ? "wrong" : advice || open.length ? "care" : "calm";
  return { wrong, advice, tone } as const;
}

/** What is said where nothing was found out. */
export function foundNothing({ open = [] }: Proof): string {
  if (!open.length) return "Every page, question and finish can be reached.";
  const places = `${count(open.length, "place")} ${open.length === 1 ? "is" : "are"}`;
  return `Nothing wrong was found. ${places} not decided.`;
}

/** How many walk-throughs there are, and what they are good for. */
export function walksTogether(walks: number, { open = [] }: Proof): string {
  const whole = `${count(walks, "walk")} that ${walks === 1 ? "takes" : "together take"} every branch`;
  return open.length ? `${whole} that is decided.` : `${whole}.`;
}
