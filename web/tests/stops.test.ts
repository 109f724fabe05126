/** Questions one by one: every item of a page is shown once, at the question it leads to. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";

import { landed, questionOf, stopAt, stopsOf } from "../src/answer/stops";
import { KINDS } from "../src/client/kinds";
import type { Item } from "../src/items/answer";

const SHOWN = ["note", "picture", "video", "computed"];
const KIND = fc.constantFrom(
  ...Object.keys(KINDS).filter((kind) => kind !== "carried"),
) as fc.Arbitrary<Item["kind"]>;
const ITEMS = fc
  .array(KIND, { maxLength: 12 })
  .map((kinds) =>
    kinds.map((kind, number): Item => ({ kind, key: `q${number}`, text: "", help: "" })),
  );

const of = (...kinds: Item["kind"][]): Item[] =>
  kinds.map((kind, number) => ({ kind, key: `${kind}${number}`, text: "" }));
const fault = (at: string) => ({ at, code: "required", message: "Needed.", params: {} });

describe("the stops of a page", () => {
  it("show each item once, in order, each with at most one question", () => {
    fc.assert(
      fc.property(ITEMS, (items) => {
        const stops = stopsOf(items);
        expect(stops.flat()).toEqual(items);
        const asked = items.filter(({ kind }) => !SHOWN.includes(kind));
        expect(stops).toHaveLength(Math.max(asked.length, 1));
        expect(stops.map(questionOf).filter(Boolean)).toEqual(asked.map(({ key }) => key));
      }),
    );
  });

  it("are gone through from the first to the last and back", () => {
    fc.assert(
      fc.property(ITEMS, (items) => {
        const there: string[] = [];
        const back: string[] = [];
        const { count } = stopAt(items, "");
        let at = landed(items, [], "first");
        for (let number = 0; number < count; number += 1) {
          expect(stopAt(items, at).number).toBe(number);
          there.push(at);
          at = landed(items, [], { after: at });
        }
        expect(at).toBe("");
        for (
          let before: string | null = landed(items, [], "last");
          before !== null;
          before = stopAt(items, before).before
        )
          back.unshift(before);
        expect(back).toEqual(there);
      }),
    );
  });

  it("bring a note with the question behind it, and the last with what follows", () => {
    const items = of("note", "number", "picture", "video", "yes_no", "computed");
    expect(stopsOf(items).map((stop) => stop.map(({ kind }) => kind))).toEqual([
      ["note", "number"],
      ["picture", "video", "yes_no", "computed"],
    ]);
  });

  it("are arrived at where something is wrong, wherever one wanted to go", () => {
    const items = of("number", "date", "roster");
    const faults = [fault("roster2/0/depth"), fault("date1")];
    for (const landing of ["first", "last", { after: "date1" }, { at: "number0" }] as const)
      expect(landed(items, faults, landing)).toBe("date1");
    expect(landed(items, [fault("elsewhere")], "last")).toBe("roster2");
  });

  it("begin anew where the question has gone from the page", () => {
    const items = of("number", "date");
    expect(landed(items, [], { at: "gone" })).toBe("number0");
    expect(landed(items, [], { after: "gone" })).toBe("number0");
    expect(stopAt(items, "gone").question).toBe("number0");
  });
});
