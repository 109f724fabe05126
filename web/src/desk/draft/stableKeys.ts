/** What is drawn for an item stays its own when the item gets another key: the focus and what is
 * being typed there stay with it. */
import type { Doc } from "../document";
import { renamesIn } from "./merge/renames";

/** From the key of an item that had another before to the name it is drawn under. */
export type StableKeys = ReadonlyMap<string, string>;

let given = 0;

export const stableKeyOf = (stableKeys: StableKeys, key: string): string =>
  stableKeys.get(key) ?? key;

/** The stable keys once `before` has become `after`. One that is in use is not given to
 * an item that comes to have the key it was made from. */
export function afterRenames(stableKeys: StableKeys, before: Doc, after: Doc): StableKeys {
  const renames = before.pages === after.pages ? [] : [...renamesIn(before, after)];
  if (!renames.length) return stableKeys;
  const next = new Map(stableKeys);
  for (const [from, to] of renames) {
    next.set(to, stableKeyOf(stableKeys, from));
    next.set(from, `${from} ${(given += 1)}`);
  }
  return next;
}
