/** Two people's changes to one draft, brought together: what does not clash stays, of both.
 *
 * Items are told apart by their keys wherever they stand, options and rows by their codes. Where
 * both changed the same thing, that is a clash, and `choose` says whose goes on.
 */
import { dequal } from "dequal";
import { everyKeyed, itemsOf, type Doc, type Item } from "../../document";
import { keyFrom, keysOf } from "../../keys";
import { renameFinish, renameKey, renamePage } from "../rename";
import { order } from "./order";
import { Merging, type Choose, type Clashing, type Members } from "./parts";
import { renamedBack, renamedOn, renamesOfBoth } from "./renames";
import { shared } from "./shared";

export interface Merged {
  doc: Doc;
  clashes: Clashing[];
  /** Keys of mine that became others, since theirs had taken them. */
  renamed: ReadonlyMap<string, string>;
}

/** Which items stand on which page, by key. */
type Places = Readonly<Record<string, readonly string[]>>;

export function merge(base: Doc, mine: Doc, theirs: Doc, choose?: Choose): Merged {
  const [ours, others] = renamesOfBoth(base, mine, theirs);
  const other = renamedBack(theirs, others);
  const { doc: own, renamed } = withoutTaken(base, renamedBack(mine, ours), other);
  const merging = new Merging(choose ?? (() => undefined));
  const merged = documents(merging, base, own, other);
  const keys = new Map([...others, ...ours]);
  for (const [before, after] of others) if (!ours.has(before)) renamed.set(before, after);
  const doc = shared(
    mine,
    renamedOn(merged, keys, (wanted, key) => renamed.set(wanted, key)),
  );
  return { doc, clashes: merging.clashes, renamed };
}

const NAMES = [
  { of: everyKeyed, rename: renameKey, spare: "question" },
  { of: (doc: Doc) => doc.pages, rename: renamePage, spare: "page" },
  { of: (doc: Doc) => doc.finishes, rename: renameFinish, spare: "finish" },
] as const;

/** What both added under one key gets another key in mine. */
function withoutTaken(base: Doc, mine: Doc, theirs: Doc) {
  const renamed = new Map<string, string>();
  let doc = mine;
  for (const { of, rename, spare } of NAMES) {
    const known = keysOf(of(base));
    const others = new Map<string, unknown>(of(theirs).map((one) => [one.key, one]));
    for (const one of of(mine)) {
      const other = others.get(one.key);
      if (known.has(one.key) || !other || dequal(one, other)) continue;
      const key = keyFrom(one.key, new Set([...keysOf(of(doc)), ...others.keys()]), spare);
      renamed.set(one.key, key);
      doc = rename(doc, one.key, key);
    }
  }
  return { doc, renamed };
}

/** A document whose pages hold nothing, beside its items and where they stand. */
function flat(doc: Doc) {
  const pages = doc.pages.map((page) => ({ ...page, items: [] }));
  const items: Record<string, Item> = {};
  const places: Record<string, string[]> = {};
  for (const page of doc.pages) {
    places[page.key] = itemsOf(page).map(({ key }) => key);
    for (const item of itemsOf(page)) items[item.key] = item;
  }
  return { bare: { ...doc, pages } as Members, items, places };
}

function documents(merging: Merging, base: Doc, mine: Doc, theirs: Doc): Doc {
  const [b, m, t] = [flat(base), flat(mine), flat(theirs)];
  const doc = withEnds(merging.members("", b.bare, m.bare, t.bare) as unknown as Doc, t.bare);
  const items = merging.map("items", b.items, m.items, t.items);
  const placement = new Placement(doc, items, b.places, m.places, t.places);
  placement.place(merging);
  const pages = doc.pages.map((page) => ({
    ...page,
    items: placement.of(page.key).map((key) => items[key] as Item),
  }));
  return { ...doc, pages };
}

/** A draft has a page and a finish, also where each of the two deleted the one the other kept. */
function withEnds(doc: Doc, theirs: Members): Doc {
  const { pages, finishes } = theirs as unknown as Doc;
  return {
    ...doc,
    pages: doc.pages.length ? doc.pages : pages,
    finishes: doc.finishes.length ? doc.finishes : finishes,
  };
}

/** Where each item stands: once, and nowhere only where it is gone. */
class Placement {
  private readonly found = new Map<string, string[]>();
  private readonly items: Readonly<Record<string, Item>>;
  private readonly places: readonly [Places, Places, Places];

  constructor(
    doc: Doc,
    items: Readonly<Record<string, Item>>,
    ...places: [Places, Places, Places]
  ) {
    this.items = items;
    this.places = places;
    const [base, mine, theirs] = places;
    const kept = new Set(Object.keys(items));
    for (const { key } of doc.pages) {
      const all = order(base[key] ?? [], mine[key] ?? base[key], theirs[key] ?? base[key]);
      this.found.set(
        key,
        all.filter((one) => kept.has(one)),
      );
    }
  }

  of(page: string): readonly string[] {
    return this.found.get(page) ?? [];
  }

  place(merging: Merging): void {
    const at = new Map<string, string[]>();
    for (const [page, keys] of this.found) {
      for (const key of keys) at.set(key, [...(at.get(key) ?? []), page]);
    }
    for (const key of Object.keys(this.items)) {
      const there = at.get(key) ?? [];
      if (there.length > 1) this.moved(merging, key, there);
      if (there.length === 0) this.restore(key);
    }
  }

  /** Both moved an item, each to another page; or one did, from a page that the other deleted. */
  private moved(merging: Merging, key: string, there: readonly string[]): void {
    const [, mine, theirs] = this.places;
    const of = (places: Places) => there.find((page) => places[page]?.includes(key));
    const [own, other] = [of(mine), of(theirs)];
    const whose =
      own !== undefined && other !== undefined && own !== other
        ? merging.clash(`items/${key}/page`, own, other)
        : "mine";
    const kept = (whose === "theirs" ? other : own) ?? there[0];
    for (const page of there) {
      if (page !== kept)
        this.found.set(
          page,
          this.of(page).filter((one) => one !== key),
        );
    }
  }

  /** An item that one deleted and the other changed stands where it stood. */
  private restore(key: string): void {
    const [base, mine, theirs] = this.places;
    for (const places of [theirs, mine, base]) {
      for (const [page, keys] of Object.entries(places)) {
        const list = this.found.get(page);
        if (!list || !keys.includes(key)) continue;
        const above = keys.slice(0, keys.indexOf(key)).filter((one) => list.includes(one));
        const last = above.at(-1);
        const at = last === undefined ? 0 : list.indexOf(last) + 1;
        this.found.set(page, [...list.slice(0, at), key, ...list.slice(at)]);
        return;
      }
    }
    const [first] = this.found;
    if (first) this.found.set(first[0], [...first[1], key]);
  }
}
