/** The same selection in another version of the draft, by key. */
import { inside, itemsOf, type Doc, type Item } from "../document";
import type { Spot } from "./edits";
import { fieldId, INTRODUCTION } from "./fields";

/** The key of what is selected: of an item, else of its page or of the finish. */
export function keyAt(doc: Doc, spot: Spot): string {
  if (spot.on === "front") return "";
  if (spot.on === "finish") return doc.finishes[spot.finish]?.key ?? "";
  const page = doc.pages[spot.page];
  return itemAt(doc, spot)?.key ?? page?.key ?? "";
}

/** The id of the field that holds the words of what is selected. */
export function fieldAt(doc: Doc, spot: Spot): string {
  if (spot.on === "front") return INTRODUCTION;
  if (spot.on === "finish") return fieldId("finish", keyAt(doc, spot));
  return fieldId(itemAt(doc, spot) ? "item" : "page", keyAt(doc, spot));
}

export function itemAt(doc: Doc, spot: Spot): Item | undefined {
  if (spot.on !== "page" || spot.item === null) return undefined;
  const item = itemsOf(doc.pages[spot.page] ?? { key: "", title: {} })[spot.item];
  return item && spot.inner !== undefined ? inside(item)[spot.inner] : item;
}

/** Where the item with `key` stands, or the question inside of one. */
export function spotOf(doc: Doc, key: string): Spot | null {
  for (const [page, one] of doc.pages.entries()) {
    for (const [item, found] of itemsOf(one).entries()) {
      if (found.key === key) return { on: "page", page, item };
      const inner = inside(found).findIndex((deep) => deep.key === key);
      if (inner >= 0) return { on: "page", page, item, inner };
    }
  }
  return null;
}

export function follow(
  spot: Spot,
  before: Doc,
  after: Doc,
  renamed: ReadonlyMap<string, string>,
): Spot {
  if (spot.on === "front") return spot;
  const old = keyAt(before, spot);
  const key = renamed.get(old) ?? old;
  if (spot.on === "finish") {
    const finish = after.finishes.findIndex((one) => one.key === key);
    return { on: "finish", finish: Math.max(finish, 0) };
  }
  const there = spot.item === null ? null : spotOf(after, key);
  if (there) return there;
  const own = before.pages[spot.page]?.key ?? "";
  const page = after.pages.findIndex((one) => one.key === (renamed.get(own) ?? own));
  return { on: "page", page: Math.max(page, 0), item: null };
}
