/** Every change that can be made to a draft: document to document. */
import {
  everyItem,
  first,
  hasOptions,
  itemsOf,
  optionsOf,
  say,
  type Condition,
  type Doc,
  type Finish,
  type Item,
  type Kind,
  type Option,
  type Page,
} from "../document";
import { isSpare, keyFrom } from "./keys";

/** What is selected, by where it stands. `item` null is the page itself. */
export type Spot =
  { on: "page"; page: number; item: number | null } | { on: "finish"; finish: number };

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
  const at = spot.item;
  return changeItems(doc, spot.page, (items) => swapped(items, at, change));
}

export function changeFinish(doc: Doc, finish: number, change: (finish: Finish) => Finish): Doc {
  return { ...doc, finishes: swapped(doc.finishes, finish, change) };
}

const keysOf = (things: readonly { key: string }[]) => new Set(things.map(({ key }) => key));

export function newItem(doc: Doc, kind: Kind): Item {
  const spare = kind === "note" ? "note" : kind === "carried" ? "value" : "question";
  const base = {
    key: keyFrom("", keysOf(everyItem(doc)), spare),
    text: { [first(doc)]: "" },
  };
  return blankOf(base, kind);
}

function blankOf(base: Pick<Item, "key" | "text" | "shown_when">, kind: Kind): Item {
  switch (kind) {
    case "pick_one":
    case "pick_many":
      return { ...base, kind, options: [] };
    case "carried":
      return { ...base, kind, longest: 200, when_wrong: "flag" };
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
  const { key, text, shown_when } = item;
  const blank = blankOf({ key, text, shown_when: shown_when ?? null }, kind);
  if (kind === "note" || item.kind === "note") return blank;
  const kept = {
    ...blank,
    required: item.required,
    restricted: item.restricted,
  } as Item;
  const options = optionsOf(item);
  if (options.length && hasOptions(kept)) return { ...kept, options: [...options] };
  if (item.kind !== "carried" && kept.kind !== "carried" && kept.kind !== "note") {
    return { ...kept, help: item.help, error_text: item.error_text };
  }
  return kept;
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
  const key = keyFrom("", keysOf(doc.pages), "page");
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
  const key = keyFrom("", keysOf(doc.finishes), "finish");
  const title = { [first(doc)]: "" };
  return { ...doc, finishes: [...doc.finishes, { key, title, message: {} }] };
}

export function removeFinish(doc: Doc, finish: number): Doc {
  return doc.finishes.length > 1 ? { ...doc, finishes: without(doc.finishes, finish) } : doc;
}

function renamed(condition: Condition, from: string, to: string): Condition {
  switch (condition.op) {
    case "all":
    case "any":
      return {
        ...condition,
        parts: condition.parts.map((part) => renamed(part, from, to)),
      };
    case "not":
      return { ...condition, part: renamed(condition.part, from, to) };
    default:
      return condition.item === from ? { ...condition, item: to } : condition;
  }
}

/** Give an item another key, in every condition that names it as well. */
export function renameKey(doc: Doc, from: string, to: string): Doc {
  const shown = (condition: Condition | null | undefined) =>
    condition ? renamed(condition, from, to) : null;
  return {
    ...doc,
    pages: doc.pages.map((page) => ({
      ...page,
      shown_when: shown(page.shown_when),
      items: itemsOf(page).map((item) => ({
        ...item,
        key: item.key === from ? to : item.key,
        shown_when: shown(item.shown_when),
      })),
      skips: (page.skips ?? []).map((skip) => ({
        ...skip,
        when: renamed(skip.when, from, to),
      })),
    })),
  };
}

/** Once a question has words, give it a key made from them in place of the spare one. */
export function settleKey(doc: Doc, item: Item): Doc {
  const words = say(doc, item.text);
  if (!isSpare(item.key) || !words.trim()) return doc;
  const taken = keysOf(everyItem(doc));
  taken.delete(item.key);
  return renameKey(doc, item.key, keyFrom(words, taken, item.key));
}

/** Options from pasted lines, after those that are there; doubles and empty lines fall out. */
export function addOptions(doc: Doc, options: readonly Option[], lines: readonly string[]) {
  const language = first(doc);
  const next = [...options];
  for (const line of lines.map((one) => one.trim())) {
    if (!line || next.some(({ label }) => label[language] === line)) continue;
    const taken = new Set(next.map(({ code }) => code));
    next.push({
      code: keyFrom(line, taken, "option"),
      label: { [language]: line },
    });
  }
  return next;
}
