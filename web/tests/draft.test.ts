/** Edits of a draft: any sequence of them, undone, gives back what was there, and redone, the same. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import { BLANK as NOTHING_CHOSEN, asCondition, asGroup, compare } from "../src/desk/condition/edit";
import { sentence } from "../src/desk/condition/words";
import {
  everyItem,
  everyKeyed,
  itemsOf,
  type Condition,
  type Doc,
  type Item,
} from "../src/desk/document";
import { type Subject } from "../src/desk/subjects";
import { reduce, start, type State } from "../src/desk/draft/draftState";
import * as edits from "../src/desk/draft/edits";
import { pasted } from "../src/desk/draft/pasted";
import { renameKey } from "../src/desk/draft/rename";
import { stableKeyOf } from "../src/desk/draft/stableKeys";
import { anyEdit, at, BLANK, place, type Edit } from "./anyEdit";

const opened = (document: Doc): State =>
  start({ document, revision: 1, faults: [], depending: { items: {}, finish: [], freed: [] } });

function edited(state: State, edit: Edit): State {
  return reduce(state, { kind: "edit", doc: edit(state.doc), step: "" });
}

test("undone, any edits give back the draft, and redone, the same again", () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 25 }), (changes) => {
      const done = changes.reduce(edited, opened(BLANK));
      let state = done;
      while (state.past.length) state = reduce(state, { kind: "undo" });
      expect(state.doc).toEqual(BLANK);
      while (state.future.length) state = reduce(state, { kind: "redo" });
      expect(state.doc).toEqual(done.doc);
    }),
  );
});

test("keys stay unique and well formed, whatever is done", () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 25 }), (changes) => {
      const { doc } = changes.reduce(edited, opened(BLANK));
      for (const keys of [everyItem(doc), doc.pages, doc.finishes].map((all) =>
        all.map((one) => one.key),
      )) {
        expect(new Set(keys).size).toBe(keys.length);
        for (const key of keys) expect(key).toMatch(/^[a-z][a-z0-9_]{0,39}$/);
      }
    }),
  );
});

test("moving an item down and up again changes nothing", () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 15 }), at, at, (changes, page, item) => {
      const { doc } = changes.reduce(edited, opened(BLANK));
      const from = place(doc, page, item);
      const moved = edits.moveItem(doc, from.page, from.item, 1);
      if (!moved || moved[1].on !== "page" || moved[1].item === null) return;
      expect(edits.moveItem(moved[0], moved[1].page, moved[1].item, -1)?.[0]).toEqual(doc);
    }),
  );
});

test("a renamed key is renamed in every condition", () => {
  let doc = edits.addItem(BLANK, 0, 0, { kind: "yes_no", key: "a", text: { en: "A" } });
  const when = {
    op: "not",
    part: { op: "all", parts: [{ op: "is", item: "a", value: true }] },
  } as const;
  const nested = { op: "not", part: { op: "all", parts: [...when.part.parts] } } as const;
  doc = edits.addItem(doc, 0, 1, {
    kind: "note",
    key: "b",
    text: {},
    shown_when: { ...nested, part: { op: "all", parts: [...when.part.parts] } },
  });
  doc = edits.changePage(doc, 0, (page) => ({
    ...page,
    skips: [{ when: { op: "answered", item: "a" }, to: { kind: "finish", finish: "done" } }],
  }));
  const text = JSON.stringify(renameKey(doc, "a", "wet"));
  expect(text).not.toContain('"item":"a"');
  expect(text.match(/"wet"/g)).toHaveLength(3);
});

test("steps of one name are one step back", () => {
  let state = opened(BLANK);
  for (const words of ["O", "On", "One"]) {
    const doc = edits.changePage(state.doc, 0, (page) => ({ ...page, title: { en: words } }));
    state = reduce(state, { kind: "edit", doc, step: "title" });
  }
  expect(reduce(state, { kind: "undo" }).doc).toEqual(BLANK);
});

const codes = (text: string, old: readonly { code: string; label: { en: string } }[] = []) => {
  const { parts, remark } = pasted(old, text, "en", "option");
  return { parts: parts.map(({ code, label }) => [code, label["en"]]), remark };
};

test("pasted options are trimmed, without doubles, each with its own code", () => {
  const old = [{ code: "own_well", label: { en: "Own well" } }];
  expect(codes("  Spring \n\nOwn well\nOwn-well!\nSpring\r\nÉté\n???", old)).toEqual({
    parts: [
      ["own_well", "Own well"],
      ["spring", "Spring"],
      ["own_well_2", "Own-well!"],
      ["ete", "Été"],
      ["option", "???"],
    ],
    remark: "4 options added. 2 doubles and 1 empty line left out.",
  });
});

test("two columns are labels and codes, whichever comes first", () => {
  const wanted = [
    ["UF", "Upper Fell"],
    ["SA", "Saltings"],
  ];
  expect(codes("Upper Fell\tUF\nSaltings\tSA").parts).toEqual(wanted);
  expect(codes("UF\tUpper Fell\nSA\tSaltings").parts).toEqual(wanted);
  expect(codes("Code\tLabel\nUF\tUpper Fell\nSA\tSaltings")).toEqual({
    parts: wanted,
    remark: "2 options added. The first line names the columns.",
  });
});

test("codes that cannot stay as they are are changed, and it is told", () => {
  expect(codes("Upper Fell\tA\nSaltings\tA\nMillbeck\tno code!\nLong Moss\t")).toEqual({
    parts: [
      ["A", "Upper Fell"],
      ["a", "Saltings"],
      ["no_code", "Millbeck"],
      ["long_moss", "Long Moss"],
    ],
    remark: "4 options added. 2 codes changed to be unique and well formed.",
  });
});

test("bullets and numbers in front of every option fall away, quoted cells are one", () => {
  expect(codes("- Red\n- Blue").parts).toEqual([
    ["red", "Red"],
    ["blue", "Blue"],
  ]);
  expect(codes("1. Red\n2. Blue").parts[1]).toEqual(["blue", "Blue"]);
  expect(codes('"Red, as\nin ""wine"""\tR\nBlue\tB').parts).toEqual([
    ["R", 'Red, as in "wine"'],
    ["B", "Blue"],
  ]);
  expect(codes('5" pipe\n"open').parts).toEqual([
    ["pipe", '5" pipe'],
    ["open", '"open'],
  ]);
});

test("jotted pages go where the script stands, titled ones behind it", () => {
  const note = (key: string) => ({ kind: "note", key, text: {} }) as const;
  const jotted = [
    { title: "", items: [note("a"), note("b")] },
    { title: "Water", items: [note("c")] },
    { title: "", items: [note("d")] },
  ];
  const start = edits.addItem(BLANK, 0, 0, note("first"));
  const shape = (doc: Doc) =>
    doc.pages.map((page) => [
      page.title["en"],
      itemsOf(page)
        .map(({ key }) => key)
        .join(""),
    ]);
  expect(shape(edits.addJotted(start, 0, 1, jotted))).toEqual([
    ["One", "firstab"],
    ["Water", "c"],
    ["Page 3", "d"],
  ]);
  expect(shape(edits.addJotted(start, 0, 0, jotted.slice(1)))[1]).toEqual(["Water", "c"]);
});

test("groups and comparisons become a condition and themselves again", () => {
  const leaf = { op: "is", item: "source", value: "own" } as const;
  const other = { op: "unanswered", item: "uses" } as const;
  const nested: Condition = {
    op: "all",
    parts: [
      leaf,
      { op: "not", part: { op: "any", parts: [other, leaf] } },
      { op: "any", parts: [{ op: "not", part: other }, leaf] },
    ],
  };
  for (const condition of [leaf, nested, { op: "not", part: nested } as Condition]) {
    expect(asCondition(asGroup(condition))).toEqual(condition);
  }
  expect(asCondition(asGroup(null))).toBeNull();
  expect(asCondition({ joined: "any", negated: false, parts: [leaf] })).toEqual(leaf);
});

test("a comparison keeps its operands where another operator takes them too", () => {
  const subject: Subject = { key: "depth", label: "Depth", kind: "number", options: [] };
  const is = { op: "is", item: "depth", value: "12" } as const;
  const between = compare(subject, "between", is);
  expect(between).toEqual({ op: "between", item: "depth", low: "12", high: "12" });
  expect(compare(subject, "at_least", between)).toEqual({
    op: "at_least",
    item: "depth",
    value: "12",
  });
});

test("what is not chosen yet is said", () => {
  const depth: Subject = { key: "depth", label: "depth", kind: "number", options: [] };
  expect(sentence(NOTHING_CHOSEN, [depth])).toBe("something not chosen yet");
  expect(sentence(compare(depth), [depth])).toBe("depth is …");
  const wells: Subject = { key: "wells", label: "wells", kind: "roster", options: [], inner: [] };
  expect(sentence(compare(wells, "any_entry"), [wells])).toBe(
    "wells has an entry where something not chosen yet",
  );
});

test("sentences of ranges, days, entries and saved conditions", () => {
  const depth: Subject = { key: "depth", label: "depth", kind: "number", options: [] };
  const wells: Subject = {
    key: "wells",
    label: "wells",
    kind: "roster",
    options: [],
    inner: [depth],
  };
  const dug: Subject = { key: "dug", label: "dug", kind: "date", options: [] };
  const subjects = [depth, wells, dug];
  const says = (condition: Condition) => sentence(condition, subjects);
  expect(says({ op: "between", item: "depth", low: "1", high: "9" })).toBe(
    "depth is between 1 and 9",
  );
  expect(says({ op: "less_than", item: "dug", value: "today-7" })).toBe("dug is before 7 days ago");
  expect(
    says({
      op: "entry_count",
      item: "wells",
      at_least: 2,
      where: { op: "more_than", item: "depth", value: "30" },
    }),
  ).toBe("wells has at least 2 entries where depth is more than 30");
  expect(says({ op: "saved", name: "deep" })).toBe("deep");
});

test("what we saved ourselves is no clash, though its reply was lost", () => {
  const ask = (words: string) => ({ kind: "short_text" as const, key: "a", text: { en: words } });
  const write = (state: State, words: string) =>
    edited(state, (doc) =>
      edits.changeItem(doc, { on: "page", page: 0, item: 0 }, () => ask(words)),
    );
  const first = edited(opened(BLANK), (doc) => edits.addItem(doc, 0, 0, ask("A")));
  const sent = reduce(write(first, "Which bi"), { kind: "sent" });
  const away = reduce(sent, { kind: "saving", saving: "away" });
  const again = reduce(write(away, "Which bird"), { kind: "sent" });
  const theirs = { revision: 2, document: structuredClone(sent.doc) };
  const told = reduce(again, { kind: "theirs", theirs });
  expect([told.saving, told.revision, told.theirs]).toEqual(["unsaved", 2, null]);
  expect(told.doc).toBe(again.doc);
  expect(told.base).toEqual(sent.doc);
  const failed = reduce(reduce(away, { kind: "sent" }), { kind: "saving", saving: "away" });
  expect(failed.tries).toBeGreaterThan(away.tries);
});

test("no two items sit under one name, and an item keeps its own when its key changes", () => {
  const names = (state: State) =>
    everyKeyed(state.doc).map(({ key }) => stableKeyOf(state.stableKeys, key));
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 25 }), at, at, (changes, page, item) => {
      const state = changes.reduce(edited, opened(BLANK));
      expect(new Set(names(state)).size).toBe(names(state).length);
      const items = everyKeyed(state.doc);
      const key = items[(page + item) % items.length]?.key;
      if (!key) return;
      const once = edited(state, (doc) => renameKey(doc, key, "another"));
      expect(names(once)).toEqual(names(state));
      const undone = reduce(once, { kind: "undo" });
      expect(names(undone)).toEqual(names(state));
      const taken = edited(once, (doc) =>
        edits.addItem(doc, 0, 0, { kind: "yes_no", key, text: { en: "A" } }),
      );
      expect(new Set(names(taken)).size).toBe(names(taken).length);
    }),
  );
});

test("what is picked from and the rows of a grid become each other", () => {
  const options = ["north", "south"].map((code) => ({ code, label: { en: code } }));
  const pick: Item = { kind: "pick_one", key: "where", text: { en: "Where?" }, options };
  const grid = edits.asKind(pick, "grid");
  expect(grid.kind === "grid" && grid.rows).toEqual(options);
  const back = edits.asKind(grid, "pick_many");
  expect(back.kind === "pick_many" && back.options).toEqual(options);
});
