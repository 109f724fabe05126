/** Edits of a draft: any sequence of them, undone, gives back what was there, and redone, the same. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import { asCondition, asRow, compare } from "../src/desk/condition/edit";
import { everyItem, itemsOf, KINDS, subjectOf, type Doc, type Kind } from "../src/desk/document";
import { reduce, start, type State } from "../src/desk/script/draftState";
import * as edits from "../src/desk/script/edits";

const BLANK: Doc = {
  format: "jotgate-questionnaire",
  version: 1,
  title: { en: "Test" },
  languages: ["en"],
  pages: [{ key: "page_1", title: { en: "One" }, items: [], skips: [] }],
  finishes: [{ key: "done", title: { en: "Done" }, message: {} }],
};

type Edit = (doc: Doc) => Doc;

const kind = fc.constantFrom(...(Object.keys(KINDS) as Kind[]));
const at = fc.nat(6);

/** Somewhere that there is, for any two numbers. */
function place(doc: Doc, page: number, item: number): { page: number; item: number } {
  const number = page % doc.pages.length;
  const items = itemsOf(doc.pages[number] ?? BLANK.pages[0]!);
  return { page: number, item: items.length ? item % items.length : 0 };
}

const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.tuple(kind, at, at).map(([kind, page, item]): Edit => (doc) => {
    const spot = place(doc, page, item);
    return edits.addItem(doc, spot.page, spot.item, edits.newItem(doc, kind));
  }),
  fc.tuple(at, at).map(([page, item]): Edit => (doc) => {
    const spot = place(doc, page, item);
    return edits.removeItem(doc, spot.page, spot.item);
  }),
  fc
    .tuple(at, at, fc.constantFrom(-1 as const, 1 as const))
    .map(([page, item, by]): Edit => (doc) => {
      const spot = place(doc, page, item);
      return edits.moveItem(doc, spot.page, spot.item, by)?.[0] ?? doc;
    }),
  fc.tuple(at, at, kind).map(([page, item, kind]): Edit => (doc) => {
    const spot = { on: "page", ...place(doc, page, item) } as const;
    return edits.changeItem(doc, spot, (one) => edits.asKind(one, kind));
  }),
  fc.tuple(at, at, fc.string({ maxLength: 12 })).map(([page, item, words]): Edit => (doc) => {
    const spot = { on: "page", ...place(doc, page, item) } as const;
    const changed = edits.changeItem(doc, spot, (one) => ({ ...one, text: { en: words } }));
    const there = itemsOf(changed.pages[spot.page]!)[spot.item];
    return there ? edits.settleKey(changed, there) : changed;
  }),
  at.map(
    (page): Edit =>
      (doc) =>
        edits.addPage(doc, page % (doc.pages.length + 1)),
  ),
  at.map(
    (page): Edit =>
      (doc) =>
        edits.removePage(doc, page % doc.pages.length),
  ),
  fc.constant<Edit>(edits.addFinish),
);

const opened = (document: Doc): State => start({ document, revision: 1, faults: [] });

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
  const text = JSON.stringify(edits.renameKey(doc, "a", "wet"));
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

test("pasted options are trimmed, without doubles, each with its own code", () => {
  const old = [{ code: "own_well", label: { en: "Own well" } }];
  const lines = ["  Spring ", "", "Own well", "Own-well!", "Spring", "Été", "???"];
  const options = edits.addOptions(BLANK, old, lines);
  expect(options.map(({ code, label }) => [code, label["en"]])).toEqual([
    ["own_well", "Own well"],
    ["spring", "Spring"],
    ["own_well_2", "Own-well!"],
    ["ete", "Été"],
    ["option", "???"],
  ]);
});

test("a row of comparisons becomes a condition and a row again", () => {
  const doc = edits.addItem(BLANK, 0, 0, { kind: "number", key: "n", text: { en: "N" } });
  const subject = subjectOf(doc, everyItem(doc)[0]!);
  const comparisons = [
    compare(subject),
    compare(subject, "at_least", "3"),
    compare(subject, "answered"),
  ];
  for (const joined of ["all", "any"] as const) {
    for (const count of [2, 3]) {
      const row = { joined, comparisons: comparisons.slice(0, count) };
      expect(asRow(asCondition(row)!)).toEqual(row);
    }
  }
  expect(asCondition({ joined: "all", comparisons: [] })).toBeNull();
  expect(asRow({ op: "not", part: { op: "answered", item: "n" } })).toBeNull();
});
