/** What can be held against what: only that is offered, and what does not suit gives way. */
import fc from "fast-check";
import { expect, it } from "vitest";

import { KINDS } from "../src/client/kinds";
import {
  about,
  checkable,
  partnersOf,
  relationsOf,
  takesNumber,
} from "../src/desk/kinds/comparable";
import type { Subject } from "../src/desk/subjects";

type Kind = Subject["kind"];

const subject = (kind: Kind, key: string): Subject => ({
  key,
  kind,
  label: key,
  detail: "",
  options: [],
});
const SUBJECTS = fc
  .array(fc.constantFrom(...(Object.keys(KINDS) as Kind[])), { minLength: 1, maxLength: 9 })
  .map((kinds) => kinds.map((kind, number) => subject(kind, `q${number}`)));

it("offers for each answer only what suits it", () => {
  const seen = new Set<string>();
  fc.assert(
    fc.property(SUBJECTS, fc.nat(), fc.nat(), (subjects, one, other) => {
      const usable = checkable(subjects);
      const [first, second] = [usable[one % usable.length], usable[other % usable.length]];
      if (!first || !second) return;
      const start = about({ left: "", relation: "at_least", message: {} }, first, usable);
      for (const check of [start, about(start, second, usable)]) {
        const left = usable.find(({ key }) => key === check.left);
        if (!left) throw new Error("of nothing that is there");
        seen.add(left.kind);
        expect(relationsOf(left)).toContain(check.relation);
        expect((check.right == null) === (check.number == null)).toBe(false);
        if (check.right)
          expect(partnersOf(left, usable).map(({ key }) => key)).toContain(check.right);
        else expect(takesNumber(left)).toBe(true);
      }
    }),
    { numRuns: 2000 },
  );
  expect([...seen]).toEqual(
    expect.arrayContaining(["name", "address", "pick_one", "date", "rank"]),
  );
});

it("knows no order of texts, names and addresses", () => {
  for (const kind of ["short_text", "name", "address", "yes_no"] as const)
    expect(relationsOf(subject(kind, "a"))).toEqual(["is", "is_not"]);
  expect(relationsOf(subject("date", "a"))).toHaveLength(6);
});

it("does not offer a text that nothing can be held against", () => {
  const [name, text, count] = [
    subject("name", "n"),
    subject("short_text", "t"),
    subject("file", "f"),
  ];
  expect(checkable([name, text, count]).map(({ key, label }) => [key, label])).toEqual([
    ["f", "how many of f"],
  ]);
});
