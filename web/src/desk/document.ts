/** The parts of a questionnaire document by their names, and small questions about them. */
import type { Schema } from "../client/client";
import { KINDS } from "../client/kinds";

export type Doc = Schema<"Questionnaire">;
export type Page = Schema<"Page">;
export type Item = NonNullable<Page["items"]>[number];
export type Finish = Schema<"Finish">;
export type Look = Schema<"Look">;
export type Option = Schema<"Option">;
export type Skip = Schema<"SkipRule">;
export type Condition = Skip["when"];
export type Text = Record<string, string>;
export type Kind = Item["kind"];
type Shown = Schema<"Note"> | Schema<"Picture"> | Schema<"Video">;
export type Question = Exclude<Item, Shown | Schema<"Carried"> | Schema<"Computed">>;
export type Roster = Schema<"Roster">;
export type Grid = Schema<"Grid">;

/** What the kinds are called. */
export const KIND_NAMES = Object.fromEntries(
  Object.entries(KINDS).map(([kind, { name }]) => [kind, name]),
) as Record<Kind, string>;

export function first(doc: Doc): string {
  return doc.languages?.[0] ?? "en";
}

/** `text` with other words in the document's first language; its translations stay. */
export function told(doc: Doc, text: Text | undefined, words: string): Text {
  return { ...text, [first(doc)]: words };
}

export function say(doc: Doc, text: Text | undefined): string {
  return text?.[first(doc)] ?? "";
}

export function isQuestion(item: Item): item is Question {
  const { group } = KINDS[item.kind];
  return group !== "Shown" && group !== "Behind the page";
}

/** Whether an entry can hold a value of `item`. */
export function isValued(item: Item): item is Exclude<Item, Shown> {
  return KINDS[item.kind].holds !== "nothing";
}

/** Whether `item` is typed, where an example inside the field helps. */
export function isTyped(item: Item): boolean {
  return KINDS[item.kind].typed;
}

/** The items that a respondent or a link picks from. */
export type Picking = Schema<"PickOne"> | Schema<"PickMany"> | Schema<"Rank"> | Schema<"Carried">;

export function hasOptions(item: Item): item is Picking {
  return ["pick", "picks", "order", "carried"].includes(KINDS[item.kind].holds);
}

/** The questions inside a roster, or the columns of a grid. */
export function inside(item: Item): readonly Item[] {
  if (item.kind === "roster") return item.items ?? [];
  return item.kind === "grid" ? (item.columns ?? []) : [];
}

/** `item` with other questions inside. */
export function withInside(item: Item, items: readonly Item[]): Item {
  if (item.kind === "roster") return { ...item, items } as Item;
  return item.kind === "grid" ? ({ ...item, columns: items } as Item) : item;
}

export function optionsOf(item: Item): readonly Option[] {
  return hasOptions(item) ? (item.options ?? []) : [];
}

export function itemsOf(page: Page): readonly Item[] {
  return page.items ?? [];
}

export function everyItem(doc: Doc): Item[] {
  return doc.pages.flatMap(itemsOf);
}

/** Every item, and what is inside of rosters and grids: all that has a key of its own. */
export function everyKeyed(doc: Doc): Item[] {
  return everyItem(doc).flatMap((item) => [item, ...inside(item)]);
}

/** Nouns whose plural is a word of its own. */
const PLURALS: Readonly<Record<string, string>> = { person: "people", address: "addresses" };

function plural(noun: string): string {
  if (noun.endsWith("y")) return `${noun.slice(0, -1)}ies`;
  return PLURALS[noun] ?? (noun.endsWith("sh") || noun.endsWith("ss") ? `${noun}es` : `${noun}s`);
}

/** "1 page", "3 pages". */
export function count(number: number, noun: string): string {
  return `${number} ${number === 1 ? noun : plural(noun)}`;
}

/** An entry's number as it is written everywhere: "0042". */
export function entryNumber(number: number): string {
  return String(number).padStart(4, "0");
}

export function targetName(doc: Doc, to: NonNullable<Page["skips"]>[number]["to"]): string {
  if (to.kind === "page") {
    const number = doc.pages.findIndex(({ key }) => key === to.page);
    const page = doc.pages[number];
    return page ? `page ${number + 1} ${say(doc, page.title)}` : `page ${to.page} (gone)`;
  }
  if (!to.finish) return "somewhere not chosen yet";
  const finish = doc.finishes.find(({ key }) => key === to.finish);
  return finish ? `finish "${say(doc, finish.title)}"` : `finish ${to.finish} (gone)`;
}

/** "820 kB", "1.2 MB". */
export function bytesInWords(bytes: number): string {
  return bytes < 1_000_000
    ? `${Math.max(Math.round(bytes / 1000), 1)} kB`
    : `${(bytes / 1_000_000).toFixed(1)} MB`;
}
