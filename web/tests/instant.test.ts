/** The instant checks say what the server says, or leave it to the server; totals and titles. */
import { expect, test } from "vitest";
import * as fc from "fast-check";

import type { Answer, Item } from "../src/items/answer";
import { instant } from "../src/items/instant";
import { titleOf } from "../src/items/title";
import { total } from "../src/items/totals";
import cases from "./cases.json";

interface Case {
  item: { kind: Item["kind"]; options?: { code: string; label: { en: string } }[] };
  raw: Answer;
  code: string | null;
  server?: boolean;
}

test.each(cases as Case[])("$item.kind $raw", ({ item, raw, code, server }) => {
  const options = item.options?.map((option) => ({ ...option, label: option.label.en }));
  const shown = { key: "q", text: "Q", ...item, options } as unknown as Item;
  expect(instant(shown, raw)?.code ?? null).toBe(server ? null : code);
});

test("sums are exact", () => {
  expect(total(["0.1", "0.2"])).toBe("0.3");
  expect(total(["12", "", "x", "-0.50"])).toBe("11.5");
  expect(total([])).toBe("0");
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -1e6, max: 1e6 })), (cents) => {
      const texts = cents.map((one) => (one / 100).toFixed(2));
      const sum = cents.reduce((so, one) => so + one, 0);
      expect(Number(total(texts))).toBeCloseTo(sum / 100, 6);
    }),
  );
});

test("an entry is called by its own answers", () => {
  const say = (key: string) => key;
  const roster = {
    title: "{who}, {sure} {one}",
    items: [
      { kind: "name", key: "who", parts: ["given", "family"] },
      { kind: "yes_no", key: "sure" },
      { kind: "pick_one", key: "one", options: [{ code: "a", label: "Ash" }] },
    ],
  } as unknown as Item;
  const line = { who: { given: "Ines", family: "C" }, sure: true, one: "a" };
  expect(titleOf(roster, line, say)).toBe("Ines C, yes Ash");
  expect(titleOf(roster, { one: { else: "Oak" } }, say)).toBe(",  Oak");
});
