/** Keys that one of two people changed: the item is the same one still. */
import { dequal } from "dequal";
import { everyKeyed, inside, itemsOf, type Doc, type Item } from "../../document";
import { isSpare, keyFrom, keysOf } from "../../keys";
import { renameKey } from "../rename";

/** From a key in `base` to the key of the same item in `next`. */
export type Renames = ReadonlyMap<string, string>;

/** Items that stand where others stood, of the same kind, between the same neighbours. */
function inPlaceOf(base: readonly Item[], next: readonly Item[]): Map<string, string> {
  const pairs = new Map<string, string>();
  if (base.length === next.length && base.every(({ key }, at) => key === next[at]?.key)) {
    return pairs;
  }
  const before = new Map(base.map((item) => [item.key, item] as const));
  const after = new Set(next.map(({ key }) => key));
  const stretches = (list: readonly Item[], common: (key: string) => boolean): Item[][] => {
    const all: Item[][] = [[]];
    for (const item of list) {
      if (common(item.key)) all.push([]);
      else all.at(-1)?.push(item);
    }
    return all;
  };
  const gone = stretches(base, (key) => after.has(key));
  const come = stretches(next, (key) => before.has(key));
  for (const [at, items] of gone.entries()) {
    const others = come[at] ?? [];
    if (gone.length !== come.length) continue;
    const aligned = items.length === others.length;
    const taken = new Set<string>();
    for (const [number, item] of items.entries()) {
      const other = aligned
        ? others[number]
        : others.find((one) => !taken.has(one.key) && goesOn(item, one));
      if (!other || !isTheSame(item, other)) continue;
      taken.add(other.key);
      pairs.set(item.key, other.key);
    }
  }
  return pairs;
}

/** Whether `after` can be `before` with more or fewer words, where more stands there than before. */
function goesOn(before: Item, after: Item): boolean {
  const [was, is] = [before, after].map(({ text }) => Object.values(text).join(" ").trim());
  if (!was || !is) return false;
  return isTheSame(before, after) && (is.startsWith(was) || was.startsWith(is));
}

/** Whether an item was only given another key, or its first one made from words. */
function isTheSame(before: Item, after: Item): boolean {
  if (isSpare(before.key) && !isSpare(after.key)) return before.kind === after.kind;
  return dequal(before, { ...after, key: before.key });
}

/** The renames from one version to a later one. */
export function renamesIn(base: Doc, next: Doc): Renames {
  const found = new Map<string, string>();
  let keys: readonly [Set<string>, Set<string>] | null = null;
  const add = (pairs: Map<string, string>) => {
    if (!pairs.size) return;
    const [known, kept] = (keys ??= [keysOf(everyKeyed(base)), keysOf(everyKeyed(next))]);
    for (const [before, after] of pairs) {
      if (!kept.has(before) && !known.has(after)) found.set(before, after);
    }
  };
  const pages = new Map(next.pages.map((page) => [page.key, page] as const));
  const items = new Map(next.pages.flatMap(itemsOf).map((item) => [item.key, item] as const));
  for (const page of base.pages) {
    const other = pages.get(page.key);
    if (other === page) continue;
    if (other) add(inPlaceOf(itemsOf(page), itemsOf(other)));
    for (const item of itemsOf(page)) {
      const one = items.get(found.get(item.key) ?? item.key);
      if (one) add(inPlaceOf(inside(item), inside(one)));
    }
  }
  return found;
}

/** The renames of each, of what the other has as well. */
export function renamesOfBoth(base: Doc, mine: Doc, theirs: Doc): [Renames, Renames] {
  const [ours, others] = [renamesIn(base, mine), renamesIn(base, theirs)];
  const [own, other] = [keysOf(everyKeyed(mine)), keysOf(everyKeyed(theirs))];
  return [
    new Map([...ours].filter(([before]) => other.has(before) || others.has(before))),
    new Map([...others].filter(([before]) => own.has(before) || ours.has(before))),
  ];
}

/** `doc` with the keys that its items had before. */
export function renamedBack(doc: Doc, renames: Renames): Doc {
  return [...renames].reduce((now, [before, after]) => renameKey(now, after, before), doc);
}

/** `doc` with the keys that its items were given; one that is taken becomes another, told by `on`. */
export function renamedOn(
  doc: Doc,
  renames: Renames,
  on: (wanted: string, key: string) => void,
): Doc {
  return [...renames].reduce((now, [before, after]) => {
    const taken = keysOf(everyKeyed(now));
    if (!taken.has(before)) return now;
    const key = taken.has(after) ? keyFrom(after, taken, "question") : after;
    if (key !== after) on(after, key);
    return renameKey(now, before, key);
  }, doc);
}
