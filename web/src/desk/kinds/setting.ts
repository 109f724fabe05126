/** How the fields of a kind change an item. */
import type { Doc, Item } from "../document";

export type Change = (change: (item: Item) => Item, step?: string) => void;

/** How the fields of one kind change their item. */
export interface Setting {
  doc: Doc;
  set: (part: object) => void;
}
