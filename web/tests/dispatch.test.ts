/** Changes to dispatch rules, and what fits where. */
import { describe, expect, test } from "vitest";

import { columnFor, cellWords, fits, TYPES, type ColumnType } from "../src/desk/registers/columns";
import {
  addRule,
  addStatusRule,
  emptyNotice,
  duplicateRule,
  likeNamed,
  moveRule,
  withActs,
  withCopies,
  type Dispatch,
  type Register,
} from "../src/desk/dispatch/rules";
import { formsOf } from "../src/desk/dispatch/SlotAdder";
import { withSlot } from "../src/desk/dispatch/WrittenWords";
import type { Subject } from "../src/desk/subjects";

const subject = (kind: Subject["kind"], more: Partial<Subject> = {}): Subject => ({
  key: "k",
  label: "K",
  kind,
  options: [],
  ...more,
});

const PICKS = { options: [{ code: "own", label: "Own" }] };

describe("a slot is put in apart from the words beside it", () => {
  test.each([
    ["", 0, "{a}"],
    ["Dear", 4, "Dear {a}"],
    ["Dear ", 5, "Dear {a}"],
    ["Dear ,", 5, "Dear {a},"],
    ["(x)", 1, "({a} x)"],
    ["{b}{c}", 3, "{b} {a} {c}"],
    ["مرحبا", 5, "مرحبا {a}"],
  ])("%s", (text, at, wanted) => {
    expect(withSlot(text, "{a}", at)).toBe(wanted);
  });
});

test("rules keep keys of their own when they are added, doubled, copied and moved", () => {
  let rules: Dispatch = {};
  for (let n = 0; n < 3; n += 1) rules = addRule(rules);
  rules = duplicateRule(rules, "rules/1");
  rules = withCopies(rules, rules.rules ?? []);
  const keys = (rules.rules ?? []).map(({ key }) => key);
  expect(new Set(keys).size).toBe(8);
  const moved = (moveRule(rules, "rules/0", 1).rules ?? []).map(({ key }) => key);
  expect(moved.slice(0, 2)).toEqual([keys[1], keys[0]]);
  expect(moveRule(rules, "rules/0", -1)).toBe(rules);
  const both = addStatusRule(addStatusRule(rules));
  expect(new Set([...keys, ...(both.on_status ?? []).map(({ key }) => key)]).size).toBe(10);
  expect(moveRule(both, "on_status/0", 1).on_status?.[1]?.key).toBe(both.on_status?.[0]?.key);
  expect(withActs(both, "on_status/1", [emptyNotice]).rules).toBe(both.rules);
});

test("every type of column has words, and takes what the server lets it take", () => {
  const takes = (one: Subject) =>
    (Object.keys(TYPES) as ColumnType[]).filter((type) => fits(type, one));
  expect(takes(subject("number"))).toEqual(["text", "long_text", "number", "entry"]);
  expect(takes(subject("date"))).toEqual(["text", "long_text", "date"]);
  expect(takes(subject("yes_no"))).toEqual(["text", "long_text", "yes_no"]);
  expect(takes(subject("pick_one", PICKS))).toEqual(["text", "long_text", "pick_one"]);
  expect(takes(subject("pick_many", PICKS))).toEqual(["text", "long_text", "pick_many"]);
  expect(takes(subject("email"))).toContain("email");
  expect(takes(subject("file"))).toEqual(["text", "long_text", "files"]);
});

test("a column is made that suits what it takes", () => {
  expect(columnFor(subject("email")).type).toBe("email");
  expect(columnFor(subject("number")).type).toBe("number");
  expect(columnFor(subject("short_text")).type).toBe("text");
  expect(columnFor(subject("pick_one", PICKS))).toMatchObject({
    type: "pick_one",
    options: PICKS.options,
  });
  expect(columnFor(subject("pick_one")).type).toBe("text");
});

test("a cell reads in its column", () => {
  const column = { key: "c", label: "C", type: "pick_many", ...PICKS } as const;
  const read = { ...column, options: [...column.options] };
  expect(cellWords(["own", "gone"], read)).toBe("Own, gone");
  expect(cellWords(true, undefined)).toBe("Yes");
  expect(cellWords(undefined, read)).toBe("");
});

test("columns take what has the same key and fits", () => {
  const register = {
    id: "r",
    name: "R",
    rows: 0,
    rights: [],
    columns: [
      { key: "k", label: "K", type: "number", options: [] },
      { key: "other", label: "O", type: "text", options: [] },
    ],
  } as unknown as Register;
  expect(likeNamed(register, [subject("number")])).toEqual({ k: { kind: "entry", name: "k" } });
  expect(likeNamed(register, [subject("yes_no")])).toEqual({});
});

test("each kind of answer is offered the forms that it has", () => {
  const codes = (one: Subject) => formsOf(one).map(({ code }) => code);
  expect(codes(subject("date"))).toEqual(["", "weekday", "short", "iso"]);
  expect(codes(subject("number"))).toEqual(["", "whole", "grouped"]);
  expect(codes(subject("pick_many", PICKS))).toEqual(["", "list", "code"]);
  expect(codes(subject("yes_no"))).toEqual([""]);
});
