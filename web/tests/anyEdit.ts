/** A draft to begin with, and any edit of a draft, for properties. */
import * as fc from "fast-check";

import { itemsOf, KIND_NAMES, type Doc, type Kind } from "../src/desk/document";
import * as edits from "../src/desk/draft/edits";
import { settleKey } from "../src/desk/draft/rename";

export const BLANK: Doc = {
  format: "jotgate-questionnaire",
  version: 1,
  title: { en: "Test" },
  languages: ["en"],
  pages: [{ key: "page_1", title: { en: "One" }, items: [], skips: [] }],
  finishes: [{ key: "done", title: { en: "Done" }, message: {} }],
};

export type Edit = (doc: Doc) => Doc;

const kind = fc.constantFrom(...(Object.keys(KIND_NAMES) as Kind[]));
export const at = fc.nat(6);

/** Somewhere that there is, for any two numbers. */
export function place(doc: Doc, page: number, item: number): { page: number; item: number } {
  const number = page % doc.pages.length;
  const items = itemsOf(doc.pages[number] ?? BLANK.pages[0]!);
  return { page: number, item: items.length ? item % items.length : 0 };
}

export const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
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
    return there ? settleKey(changed, there.key) : changed;
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
