/** How rounds, their steps and what came of them read. */
import { when } from "../when";
import type { Named, Outcome, RoundOut, Standing, Step } from "./data";

export const STANDINGS: readonly Standing[] = [
  "answered",
  "started",
  "refused",
  "not_reached",
  "not_eligible",
  "open",
];

export const STANDS: Record<Standing, string> = {
  answered: "answered",
  started: "started",
  refused: "refused",
  not_reached: "not reached",
  not_eligible: "not eligible",
  open: "open",
};

export const WAYS: Record<Step["way"], string> = {
  mail: "Mail",
  paper: "Paper",
  call: "Call",
  visit: "Visit",
};

export const WINDOWS: Record<NonNullable<Step["window"]>, string> = {
  din_b: "a window by DIN 5008, form B (A4)",
  din_a: "a window by DIN 5008, form A (A4)",
  no_10: "a No. 10 window (US letter)",
};

export const WHOM: Record<NonNullable<Step["to"]>, string> = {
  not_answered: "everybody who has not answered",
  not_started: "who has not started",
  broken_off: "who started and stopped",
};

export const OUTCOMES: Record<Outcome, string> = {
  answered: "Answered",
  again: "Try again later",
  refused: "Refused",
  not_reached: "Not reached",
  wrong_number: "Wrong number",
  moved: "Moved",
  not_eligible: "Not eligible",
  language: "Language",
};

const LETTERS: Record<string, string> = {
  waiting: "waits",
  sent: "sent",
  left_out: "left out",
  failed: "could not be sent",
};

const TRIED: Record<string, string> = {
  ...LETTERS,
  ...Object.fromEntries(Object.entries(OUTCOMES).map(([key, word]) => [key, word.toLowerCase()])),
};

/** What came of something that was tried: of a letter on paper, whether it was printed. */
export function cameOf({ way, outcome }: Pick<Named["tried"][number], "way" | "outcome">): string {
  if (way === "paper" && outcome === "sent") return "printed";
  if (way === "paper" && outcome === "waiting") return "to be printed";
  return TRIED[outcome] ?? outcome;
}

/** What was tried so far, in a few words: "mail, mail, call: not reached". */
export function triedSoFar(tried: Named["tried"]): string {
  return tried
    .filter(({ outcome }) => outcome !== "waiting" && outcome !== "left_out")
    .map(({ way, outcome }) => {
      const plain = outcome === "sent" ? "" : `: ${cameOf({ way, outcome })}`;
      return `${way}${plain}`;
    })
    .join(", ");
}

/** A distance in hours: "7 days", "36 hours", "1 day". */
export function distance(hours: number): string {
  const [many, unit] = hours && hours % 24 === 0 ? [hours / 24, "day"] : [hours, "hour"];
  return `${many} ${unit}${many === 1 ? "" : "s"}`;
}

/** When a step goes, as it is written: "7 days after the one before". */
export function written(step: Step, first: boolean): string {
  if (step.at) return step.at.replace("T", " ");
  const hours = step.after ?? 168;
  if (!hours) return first ? "once people are released" : "right after the one before";
  return `${distance(hours)} after ${first ? "the release" : "the one before"}`;
}

/** What is going on with a step: when it went, or when it will. */
export function stateOf(one: RoundOut, step: Step): "done" | "latest" | "ahead" {
  const gone = new Set(one.gone.map(({ step: key }) => key));
  if (!gone.has(step.key)) return "ahead";
  const later = (one.round.steps ?? []).slice(
    (one.round.steps ?? []).findIndex(({ key }) => key === step.key) + 1,
  );
  return later.some(({ key }) => gone.has(key)) ? "done" : "latest";
}

/** The moments of a step: those that were, and those to come. */
export function moments(one: RoundOut, step: Step): { went: string[]; ahead: (string | null)[] } {
  return {
    went: one.gone.filter(({ step: key }) => key === step.key).map(({ began }) => when(began)),
    ahead: one.ahead
      .filter(({ step: key }) => key === step.key)
      .map(({ moment }) => (moment ? when(moment) : null)),
  };
}

/** A stratum as people read it: those without a value have none of their own. */
export const stratumName = (name: string): string => name || "none given";

export const people = (many: number): string => (many === 1 ? "1 person" : `${many} people`);
