/** The state of an answering page, and picking with options that exclude the others. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import { begin, change, type Answering, type Page, type Visit } from "../src/answer/visit";
import { pick } from "../src/items/picks";

const page = (key: string, more: Partial<Page> = {}): Page => ({
  kind: "page",
  title: "T",
  language: "en",
  edition: 1,
  key,
  heading: key,
  items: [],
  before: null,
  last: false,
  progress: 0,
  share: 0.5,
  watched: [],
  checked: [],
  filled: {},
  faults: [],
  ...more,
});

const fault = (at: string) => ({
  code: "required",
  at,
  message: "Answer this question.",
  params: {},
});

const answering = (visit: Visit): Answering => {
  if (visit.state !== "answering") throw new Error("finished");
  return visit;
};

test("what the link filled in is there, until it is answered otherwise", () => {
  const first = begin(page("a", { filled: { x: "link", y: "link" } }), { x: "mine" });
  expect(first.answers).toEqual({ x: "mine", y: "link" });
  const shown = change(first, {
    kind: "shown",
    landing: "first",
    page: page("b", { filled: { x: "link", z: "link" } }),
  });
  expect(answering(shown).answers).toEqual({ x: "mine", y: "link", z: "link" });
});

test("no event but an answer changes an answer", () => {
  const events = fc.oneof(
    fc.constant({ kind: "asked" } as const),
    fc
      .constantFrom("a", "b")
      .map((key) => ({ kind: "shown", page: page(key), landing: "first" }) as const),
    fc.constant({ kind: "failed", trouble: { kind: "away", detail: "" } } as const),
  );
  fc.assert(
    fc.property(fc.array(events), (all) => {
      const start = begin(page("a"), { x: "mine", y: true, z: ["p"] });
      const end = all.reduce<Visit>(change, start);
      expect(answering(end).answers).toEqual(start.answers);
    }),
  );
});

test("an answer that is changed is no longer said to be wrong, and the others are", () => {
  const wrong = change(begin(page("a"), {}), {
    kind: "shown",
    landing: "first",
    page: page("a", { faults: [fault("x"), fault("y")] }),
  });
  const mended = answering(change(wrong, { kind: "answered", key: "x", answer: "ok", place: "x" }));
  expect(mended.faults.map(({ at }) => at)).toEqual(["y"]);
  expect(mended.found.map(({ at }) => at)).toEqual(["x", "y"]);
});

test("nothing is said of a visit that has ended", () => {
  const done = change(begin(page("a"), {}), {
    kind: "finished",
    submission: "s",
    finish: { kind: "finish", heading: "H", message: "" },
  });
  expect(change(done, { kind: "asked" })).toBe(done);
});

const OPTIONS = [{ code: "a" }, { code: "b" }, { code: "c" }, { code: "none", alone: true }];

test("an option that stands alone is never picked with others", () => {
  const presses = fc.array(fc.constantFrom("a", "b", "c", "none"), { maxLength: 12 });
  fc.assert(
    fc.property(presses, (all) => {
      let picked: readonly string[] = [];
      for (const code of all) {
        const next = picked.includes(code)
          ? picked.filter((one) => one !== code)
          : [...picked, code];
        const before = picked;
        picked = pick(OPTIONS, picked, next);
        expect(picked.includes(code)).toBe(!before.includes(code));
        expect(picked.includes("none") && picked.length > 1).toBe(false);
      }
    }),
  );
});
