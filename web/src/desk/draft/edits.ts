/** Every change that can be made to a draft: document to document. */
import {
  everyKeyed,
  first,
  hasOptions,
  inside,
  isQuestion,
  isTyped,
  isValued,
  itemsOf,
  optionsOf,
  told,
  withInside,
  type Doc,
  type Finish,
  type Item,
  type Kind,
  type Look,
  type Page,
} from "../document";
import { isSpare, keyFrom, keysOf, spareKey } from "../keys";
import { renamed } from "./rename";

/** What is selected, by where it stands. `item` null is the page itself, `inner` what is inside
 * of a roster or grid. */
export type Spot =
  | { on: "front" }
  | { on: "page"; page: number; item: number | null; inner?: number }
  | { on: "finish"; finish: number };

const swapped = <T>(list: readonly T[], at: number, change: (one: T) => T): T[] =>
  list.map((one, position) => (position === at ? change(one) : one));

const without = <T>(list: readonly T[], at: number): T[] =>
  list.filter((_, position) => position !== at);

const inserted = <T>(list: readonly T[], at: number, one: T): T[] => [
  ...list.slice(0, at),
  one,
  ...list.slice(at),
];

export function changePage(doc: Doc, page: number, change: (page: Page) => Page): Doc {
  return { ...doc, pages: swapped(doc.pages, page, change) };
}

function changeItems(doc: Doc, page: number, change: (items: readonly Item[]) => Item[]): Doc {
  return changePage(doc, page, (one) => ({
    ...one,
    items: change(itemsOf(one)),
  }));
}

export function changeItem(doc: Doc, spot: Spot, change: (item: Item) => Item): Doc {
  if (spot.on !== "page" || spot.item === null) return doc;
  const { item, inner } = spot;
  const changed =
    inner === undefined
      ? change
      : (outer: Item) => withInside(outer, swapped(inside(outer), inner, change));
  return changeItems(doc, spot.page, (items) => swapped(items, item, changed));
}

/** Change the list of what is inside of the roster or grid at `spot`. */
function changeInside(
  doc: Doc,
  page: number,
  item: number,
  change: (items: readonly Item[]) => Item[],
): Doc {
  return changeItem(doc, { on: "page", page, item }, (outer) =>
    withInside(outer, change(inside(outer))),
  );
}

export function addInside(doc: Doc, page: number, item: number, at: number, one: Item): Doc {
  return changeInside(doc, page, item, (items) => inserted(items, at, one));
}

export function removeInside(doc: Doc, page: number, item: number, at: number): Doc {
  return changeInside(doc, page, item, (items) => without(items, at));
}

/** Move what is inside up (-1) or down (1): the document and where it is now. */
export function moveInside(
  doc: Doc,
  page: number,
  item: number,
  at: number,
  by: -1 | 1,
): [Doc, Spot] | null {
  const outer = itemsOf(doc.pages[page] ?? { key: "", title: {} })[item];
  const items = outer ? inside(outer) : [];
  const moved = items[at];
  const to = at + by;
  if (!moved || to < 0 || to >= items.length) return null;
  const next = changeInside(doc, page, item, (all) => inserted(without(all, at), to, moved));
  return [next, { on: "page", page, item, inner: to }];
}

export function withLook(doc: Doc, part: Partial<Look>): Doc {
  return { ...doc, look: { ...doc.look, ...part } };
}

/** Other words, in the first language, of the introduction or of a button. */
export function changeLook(
  doc: Doc,
  name: "introduction" | "onward" | "back" | "send",
  words: string,
): Doc {
  return withLook(doc, { [name]: told(doc, doc.look?.[name], words) });
}

export function changeFinish(doc: Doc, finish: number, change: (finish: Finish) => Finish): Doc {
  return { ...doc, finishes: swapped(doc.finishes, finish, change) };
}

export function newItem(doc: Doc, kind: Kind): Item {
  const base = {
    key: spareKey(SPARE[kind] ?? "question"),
    text: { [first(doc)]: "" },
  };
  return blankOf(base, kind);
}

/** What the key of a new item begins with, where it is not a question. */
const SPARE: Partial<Record<Kind, string>> = {
  note: "note",
  picture: "picture",
  video: "video",
  carried: "value",
  computed: "computed",
};

type Base = Pick<Item, "key" | "text" | "shown_when" | "short_name">;

function blankOf(base: Base, kind: Kind): Item {
  switch (kind) {
    case "pick_one":
    case "pick_many":
    case "rank":
      return { ...base, kind, options: [] };
    case "computed":
      return { ...base, kind, formula: { do: "count", of: ["question"] } };
    case "roster":
      return { ...base, kind, fewest: 0, most: 10, items: [] };
    case "grid":
      return { ...base, kind, rows: [], columns: [] };
    case "carried":
      return { ...base, kind, longest: 200, sources: [{ kind: "link" }], when_wrong: "flag" };
    case "number":
      return { ...base, kind, decimals: 0 };
    case "scale":
      return { ...base, kind, low: 1, high: 5 };
    default:
      return { ...base, kind };
  }
}

/** The same item as another kind, with whatever that kind can keep. */
export function asKind(item: Item, kind: Kind): Item {
  const { key, text, shown_when, short_name = "" } = item;
  const blank = blankOf({ key, text, short_name, shown_when: shown_when ?? null }, kind);
  if (!isValued(blank) || !isValued(item)) return blank;
  const kept = { ...blank, restricted: item.restricted } as Item;
  if ("required" in item && kept.kind !== "computed") {
    Object.assign(kept, only(item, ["required", "required_when"]));
  }
  if (hasOptions(kept)) {
    const options = item.kind === "grid" ? (item.rows ?? []).map(named) : [...optionsOf(item)];
    Object.assign(kept, { options });
  }
  if (kept.kind === "grid" && hasOptions(item)) {
    Object.assign(kept, { rows: optionsOf(item).map(named) });
  }
  if (isQuestion(item) && isQuestion(kept)) {
    Object.assign(kept, { help: item.help, error_text: item.error_text });
  }
  if (isTyped(item) && isTyped(kept)) Object.assign(kept, only(item, ["placeholder"]));
  if (isText(item) && isText(kept)) Object.assign(kept, only(item, ["shortest", "longest"]));
  if (isPick(item) && isPick(kept)) Object.assign(kept, only(item, ["else_label", "shuffled"]));
  return kept;
}

/** What options and the rows of a grid have in common. */
function named<Label>({ code, label }: { code: string; label: Label }) {
  return { code, label };
}

const isText = (item: Item) => item.kind === "short_text" || item.kind === "long_text";
const isPick = (item: Item) => item.kind === "pick_one" || item.kind === "pick_many";

/** Those members of `item` that it has. */
function only(item: Item, names: readonly string[]): Partial<Item> {
  return Object.fromEntries(
    Object.entries(item).filter(([name, value]) => names.includes(name) && value != null),
  );
}

/** Another one like `item`, with keys of its own, all that is inside too. */
export function duplicate(doc: Doc, item: Item): Item {
  const taken = keysOf(everyKeyed(doc));
  return [item, ...inside(item)].reduce<Item>((made, { key }) => {
    const own = isSpare(key) ? spareKey("question") : keyFrom(key, taken, "question");
    taken.add(own);
    return renamed(made, key, own);
  }, item);
}

export function addItem(doc: Doc, page: number, at: number, item: Item): Doc {
  return changeItems(doc, page, (items) => inserted(items, at, item));
}

export function removeItem(doc: Doc, page: number, item: number): Doc {
  return changeItems(doc, page, (items) => without(items, item));
}

/** Move an item up (-1) or down (1), over page borders too: the document and where it is now. */
export function moveItem(doc: Doc, page: number, item: number, by: -1 | 1): [Doc, Spot] | null {
  const items = itemsOf(doc.pages[page] ?? { key: "", title: {} });
  const moved = items[item];
  if (!moved) return null;
  const to = item + by;
  if (to >= 0 && to < items.length) {
    const next = changeItems(doc, page, (all) => inserted(without(all, item), to, moved));
    return [next, { on: "page", page, item: to }];
  }
  const other = doc.pages[page + by];
  if (!other) return null;
  const place = by === 1 ? 0 : itemsOf(other).length;
  const taken = removeItem(doc, page, item);
  return [addItem(taken, page + by, place, moved), { on: "page", page: page + by, item: place }];
}

export function addPage(doc: Doc, at: number): Doc {
  const key = spareKey("page");
  const title = { [first(doc)]: `Page ${doc.pages.length + 1}` };
  return {
    ...doc,
    pages: inserted(doc.pages, at, { key, title, items: [], skips: [] }),
  };
}

export function movePage(doc: Doc, page: number, by: -1 | 1): Doc {
  const moved = doc.pages[page];
  const to = page + by;
  if (!moved || to < 0 || to >= doc.pages.length) return doc;
  return { ...doc, pages: inserted(without(doc.pages, page), to, moved) };
}

export function removePage(doc: Doc, page: number): Doc {
  return doc.pages.length > 1 ? { ...doc, pages: without(doc.pages, page) } : doc;
}

export function addFinish(doc: Doc): Doc {
  const key = spareKey("finish");
  const title = { [first(doc)]: "" };
  return { ...doc, finishes: [...doc.finishes, { key, title, message: {} }] };
}

export function removeFinish(doc: Doc, finish: number): Doc {
  return doc.finishes.length > 1 ? { ...doc, finishes: without(doc.finishes, finish) } : doc;
}

/** Put questions that were jotted after `spot`: the first ones there, titled pages behind it. */
export function addJotted(
  doc: Doc,
  page: number,
  at: number,
  jotted: readonly { title: string; items: readonly Item[] }[],
): Doc {
  const [here, ...rest] = jotted[0]?.title ? [undefined, ...jotted] : jotted;
  const items = [...(here?.items ?? [])].reverse();
  const filled = items.reduce((now, item) => addItem(now, page, at, item), doc);
  return rest.reduce((now, one, behind) => {
    const place = page + 1 + behind;
    const next = addPage(now, place);
    return changePage(next, place, (made) => ({
      ...made,
      title: one?.title ? { [first(doc)]: one.title } : made.title,
      items: [...(one?.items ?? [])],
    }));
  }, filled);
}
