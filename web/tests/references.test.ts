/** What refers to an item, and a draft without that. */
import { expect, test } from "vitest";

import { everyItem, type Doc } from "../src/desk/document";
import { duplicate } from "../src/desk/draft/edits";
import { keysOn, keysWithin, rulesUsing, usedBy, withoutUses } from "../src/desk/draft/references";
import { renameKey } from "../src/desk/draft/rename";
import { BLANK } from "./anyEdit";

const is = (item: string) => ({ op: "is", item, value: true }) as const;

const DOC: Doc = {
  ...BLANK,
  pages: [
    {
      key: "one",
      title: { en: "One" },
      items: [
        { kind: "yes_no", key: "a", text: { en: "A" } },
        { kind: "number", key: "n", text: { en: "N" }, decimals: 0 },
        {
          kind: "roster",
          key: "wells",
          text: { en: "Wells" },
          noun: { en: "well" },
          title: { en: "{called}" },
          fewest: 0,
          most: 3,
          items: [
            { kind: "short_text", key: "called", text: { en: "Called" } },
            { kind: "note", key: "wet", text: { en: "Wet" }, shown_when: is("a") },
          ],
        },
      ],
      skips: [
        { when: { op: "all", parts: [is("a"), is("b")] }, to: { kind: "finish", finish: "done" } },
        { when: { op: "not", part: is("a") }, to: { kind: "finish", finish: "done" } },
      ],
      checks: [{ left: "n", relation: "at_least", right: "m", message: {} }],
    },
    {
      key: "two",
      title: { en: "Two" },
      shown_when: is("a"),
      items: [
        {
          kind: "computed",
          key: "sum",
          text: { en: "Sum" },
          formula: { do: "sum", of: ["n", "m"] },
        },
        {
          kind: "pick_one",
          key: "p",
          text: { en: "P" },
          options: [{ code: "x", label: {}, shown_when: is("a") }],
        },
      ],
    },
  ],
};

const says = (...keys: string[]) => usedBy(DOC, new Set(keys)).map((use) => use.says);

test("everything that refers to an item is told, in reading order", () => {
  expect(says("a")).toEqual([
    "wet: Wet",
    "Page 1 One: a skip rule",
    "Page 2 Two: when it is shown",
    "p: P",
  ]);
  expect(says("n")).toEqual(["Page 1 One: a check across answers", "sum: Sum"]);
  expect(says("called")).toEqual(["wells: Wells"]);
  expect(says("p")).toEqual([]);
});

test("a whole page or roster is used by what is outside of it", () => {
  expect(usedBy(DOC, keysOn(DOC.pages[1]!))).toEqual([]);
  expect(usedBy(DOC, keysWithin(everyItem(DOC)[2]!))).toEqual([]);
});

test("without its uses nothing refers to it, and the rest is as it was", () => {
  for (const key of ["a", "n"])
    expect(usedBy(withoutUses(DOC, new Set([key])), new Set([key]))).toEqual([]);
  const left = withoutUses(DOC, new Set(["a"]));
  expect(left.pages[0]?.skips).toEqual([{ when: is("b"), to: { kind: "finish", finish: "done" } }]);
  expect(left.pages[1]?.shown_when).toBeNull();
  expect(withoutUses(DOC, new Set(["n"])).pages[0]?.checks).toEqual([]);
});

test("a duplicate has keys of its own, inside too, and refers to them", () => {
  const roster = everyItem(DOC)[2]!;
  const made = duplicate(DOC, roster);
  expect(made).toMatchObject({
    key: "wells_2",
    title: { en: "{called_2}" },
    items: [{ key: "called_2" }, { key: "wet_2", shown_when: is("a") }],
  });
});

test("dispatch rules that test an answer, file it or put it into a letter are told", () => {
  const file = { kind: "file" as const, register: "r", mapping: { column: "a" } };
  const notice = {
    kind: "notice" as const,
    to: ["crew@example.org"],
    subject: "New",
    body: "It says {n}.",
  };
  const rules = {
    rules: [
      { key: "one", when: is("a"), acts: [notice] },
      { key: "two", when: is("n"), acts: [file] },
    ],
    otherwise: [notice],
  } as unknown as Parameters<typeof rulesUsing>[0];
  expect(rulesUsing(rules, new Set(["a"]))).toEqual([
    "Dispatch, rule 1: its condition",
    "Dispatch, rule 2: what it does",
  ]);
  expect(rulesUsing(rules, new Set(["n"]))).toEqual([
    "Dispatch, rule 1: what it does",
    "Dispatch, rule 2: its condition",
    "Dispatch: what is done otherwise",
  ]);
  expect(rulesUsing(rules, new Set(["gone"]))).toEqual([]);
});

const SAVING: Doc = {
  ...DOC,
  saved: [
    { key: "both", name: "Both", when: { op: "all", parts: [is("a"), is("n")] } },
    {
      key: "deep",
      name: "Deep",
      when: { op: "any_entry", item: "wells", where: { op: "answered", item: "called" } },
    },
  ],
  finishes: [
    {
      key: "done",
      title: { en: "Done" },
      message: { en: "Thank you, {a}" },
      link: { label: { en: "On" }, address: "https://example.org/?n={n}" },
      sets: { route: "x" },
    },
  ],
};

test("saved conditions and finishes speak of items too", () => {
  const says = (key: string) => usedBy(SAVING, new Set([key])).map((use) => use.says);
  expect(says("n")).toContain("The saved condition Both");
  expect(says("n")).toContain("Finish Done");
  expect(says("called")).toContain("The saved condition Deep");
  expect(says("route")).toEqual(["Finish Done"]);
});

test("what is deleted is gone from saved conditions and from the values that a finish sets", () => {
  const left = withoutUses(SAVING, new Set(["a", "called", "route"]));
  expect(left.saved).toEqual([{ key: "both", name: "Both", when: is("n") }]);
  expect(left.finishes[0]?.sets).toEqual({});
});

test("a key that changes changes in saved conditions, slots and values set", () => {
  const now = renameKey(renameKey(SAVING, "n", "number"), "route", "way");
  expect(now.saved?.[0]?.when).toEqual({ op: "all", parts: [is("a"), is("number")] });
  expect(now.finishes[0]?.link?.address).toBe("https://example.org/?n={number}");
  expect(now.finishes[0]?.sets).toEqual({ way: "x" });
});
