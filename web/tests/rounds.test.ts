/** How rounds read, and where their steps stand. */
import { describe, expect, it } from "vitest";

import type { Named, RoundOut, Step } from "../src/desk/rounds/data";
import {
  cameOf,
  distance,
  moments,
  OUTCOMES,
  people,
  stateOf,
  STANDINGS,
  STANDS,
  triedSoFar,
  written,
} from "../src/desk/rounds/words";

const step = (key: string, more: Partial<Step> = {}): Step => ({
  key,
  name: key,
  way: "mail",
  ...more,
});

function round(steps: Step[], gone: string[], ahead: (string | null)[] = []): RoundOut {
  return {
    id: "r",
    round: { name: "R", steps },
    revision: 1,
    state: "running",
    zone: "UTC",
    languages: ["en"],
    drawn: null,
    drawn_from: 0,
    portions: [],
    gone: gone.map((key) => ({ portion: 1, step: key, began: "2026-11-02T09:00:00Z", asked: 3 })),
    ahead: ahead.map((moment) => ({ portion: 1, step: steps.at(-1)?.key ?? "", moment })),
    faults: [],
  };
}

describe("steps", () => {
  const steps = [step("a"), step("b"), step("c")];

  it("are done once a later one went, and the last that went is the latest", () => {
    const one = round(steps, ["a", "b"]);
    expect(steps.map((each) => stateOf(one, each))).toEqual(["done", "latest", "ahead"]);
    expect(steps.map((each) => stateOf(round(steps, []), each))).toEqual([
      "ahead",
      "ahead",
      "ahead",
    ]);
  });

  it("say when they went, and that they wait where that is not known", () => {
    const one = round(steps, ["a"], [null]);
    expect(moments(one, step("a")).went).toHaveLength(1);
    expect(moments(one, step("c")).ahead).toEqual([null]);
    expect(moments(one, step("b"))).toEqual({ went: [], ahead: [] });
  });

  it.each([
    [0, true, "once people are released"],
    [0, false, "right after the one before"],
    [24, false, "1 day after the one before"],
    [168, true, "7 days after the release"],
    [36, false, "36 hours after the one before"],
  ])("%i hours after, first %s: %s", (after, first, words) => {
    expect(written(step("a", { after }), first)).toBe(words);
  });

  it("at a moment say that", () => {
    expect(written(step("a", { at: "2026-11-30T10:00" }), true)).toBe("2026-11-30 10:00");
  });
});

describe("words", () => {
  it("count hours, days and people", () => {
    expect([1, 24, 25, 48].map(distance)).toEqual(["1 hour", "1 day", "25 hours", "2 days"]);
    expect([0, 1, 2].map(people)).toEqual(["0 people", "1 person", "2 people"]);
  });

  it("name every standing", () => {
    expect(STANDINGS.map((one) => STANDS[one])).toHaveLength(new Set(STANDINGS).size);
  });

  it("leave out what did not happen", () => {
    const tried = (["sent", "waiting", "left_out", "failed", "not_reached"] as const).map(
      (outcome, at) => ({
        step: "a",
        way: at === 4 ? ("call" as const) : ("mail" as const),
        at: "2026-11-02T09:00:00Z",
        outcome,
        note: "",
      }),
    ) satisfies Named["tried"];
    expect(triedSoFar(tried)).toBe("mail, mail: could not be sent, call: not reached");
    expect(triedSoFar([])).toBe("");
  });
});

describe("what came of a letter on paper", () => {
  const on = (outcome: string) => cameOf({ way: "paper", outcome });

  it("is printed, or waits to be", () => {
    expect(on("sent")).toBe("printed");
    expect(on("waiting")).toBe("to be printed");
  });

  it("is else told as of any letter", () => {
    expect(on("left_out")).toBe("left out");
    expect(on("failed")).toBe("could not be sent");
    expect(cameOf({ way: "mail", outcome: "sent" })).toBe("sent");
    expect(cameOf({ way: "mail", outcome: "waiting" })).toBe("waits");
  });

  it("has a word for every outcome of a call too, and shows what it does not know", () => {
    for (const [outcome, word] of Object.entries(OUTCOMES)) {
      expect(cameOf({ way: "call", outcome })).toBe(word.toLowerCase());
    }
    expect(cameOf({ way: "visit", outcome: "other" })).toBe("other");
  });
});
