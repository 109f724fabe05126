/** The parts of a questionnaire document by their names, and small questions about them. */
import type { Schema } from "../client/client";
import { KINDS } from "../client/kinds";
import { proposed } from "./staffNames";

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

/** What a condition can name, in the words of the one who writes it. */
export interface Subject {
  key: string;
  label: string;
  /** More about it, where there is room for that. */
  detail?: string;
  kind: Kind;
  options: readonly { code: string; label: string }[];
  /** What can be asked of each entry of a roster. */
  inner?: readonly Subject[];
}

export type Saved = Schema<"SavedCondition">;

/** The first of the questions whose answers a computed value takes; what it reads as. */
function takenFrom(doc: Doc, item: Item): Item | undefined {
  if (item.kind !== "computed" || item.formula.do !== "first") return undefined;
  const [first] = item.formula.of;
  return everyItem(doc).find(({ key }) => key === first && key !== item.key);
}

/** What staff read for an item; its key where it has no words. */
export function staffName(doc: Doc, item: Item): string {
  return item.short_name?.trim() || proposed(say(doc, item.text)) || item.key;
}

export function subjectOf(doc: Doc, item: Item): Subject {
  const source = takenFrom(doc, item);
  if (source && source.kind !== "computed") {
    return {
      ...subjectOf(doc, source),
      key: item.key,
      label: staffName(doc, item),
      detail: item.key,
    };
  }
  const options = optionsOf(item).map(({ code, label }) => ({
    code,
    label: say(doc, label) || code,
  }));
  const other = "else_label" in item ? say(doc, item.else_label) : "";
  return {
    key: item.key,
    label: staffName(doc, item),
    detail: item.key,
    kind: item.kind === "computed" && item.formula.do !== "first" ? "number" : item.kind,
    options: other ? [...options, { code: "else", label: other }] : options,
    ...(item.kind === "roster"
      ? {
          inner: inside(item)
            .filter(isValued)
            .map((one) => subjectOf(doc, one)),
        }
      : {}),
  };
}

/** Facts of the visitor: of the contact that a pass belongs to, and claims of a sign-in. */
const FACTS: readonly Subject[] = [
  ["contact.name", "The contact's name"],
  ["contact.email", "The contact's mail address"],
  ["contact.phone", "The contact's phone number"],
  ["contact.organisation", "The contact's organisation"],
  ["contact.language", "The contact's language"],
  ["claim.email", "The signed-in visitor's mail address"],
  ["claim.name", "The signed-in visitor's name"],
  ["claim.role", "The signed-in visitor's role"],
].map(([key = "", label = ""]) => ({ key, label, kind: "short_text", options: [] }));

/** Whether a subject is a fact of the visitor: conditions ask for those, checks and formulas do
 * not. */
export function isFact({ key }: Subject): boolean {
  return key.includes(".");
}

/**
 * What stands before a place: the questions asked earlier, and carried values; those under a
 * condition count from their place on.
 */
export function earlier(doc: Doc, page: number, item: number): Subject[] {
  const asked = doc.pages.flatMap((one, at) => {
    if (at < page) return itemsOf(one);
    return at === page ? itemsOf(one).slice(0, item) : [];
  });
  const carried = everyItem(doc).filter(
    (one) => one.kind === "carried" && !one.shown_when && !asked.includes(one),
  );
  const items = [...asked, ...carried].filter(isValued).map((one) => subjectOf(doc, one));
  return [...items, ...FACTS];
}

/** What stands before a question inside a roster: all of the above, and its own entry's answers. */
export function earlierInside(doc: Doc, page: number, item: number, inner: number): Subject[] {
  const outer = itemsOf(doc.pages[page] ?? { key: "", title: {} })[item];
  const own = outer?.kind === "roster" ? inside(outer).slice(0, inner) : [];
  return [...earlier(doc, page, item), ...own.filter(isValued).map((one) => subjectOf(doc, one))];
}

/** The items of a document by key, found once for each version of it. */
const keyed = new WeakMap<Doc, ReadonlyMap<string, Item>>();

function itemsByKey(doc: Doc): ReadonlyMap<string, Item> {
  const found = keyed.get(doc) ?? new Map(everyKeyed(doc).map((item) => [item.key, item]));
  keyed.set(doc, found);
  return found;
}

/** What `condition` names. */
export function subjectsOf(doc: Doc, condition: Condition): Subject[] {
  const items = [...namedIn(condition)].map((key) => itemsByKey(doc).get(key));
  const found = items.filter((item) => item !== undefined).map((item) => subjectOf(doc, item));
  return [...found, ...savedSubjects(doc)];
}

/** The saved conditions, as they are named in sentences. */
export function savedSubjects(doc: Doc): Subject[] {
  return (doc.saved ?? []).map(({ key, name }) => ({
    key: `saved:${key}`,
    label: name || key,
    kind: "yes_no",
    options: [],
  }));
}

function namedIn(condition: Condition): Set<string> {
  if (condition.op === "saved") return new Set();
  if ("item" in condition) {
    const where = "where" in condition && condition.where ? namedIn(condition.where) : [];
    return new Set([condition.item, ...where]);
  }
  const parts = condition.op === "not" ? [condition.part] : condition.parts;
  return new Set(parts.flatMap((part) => [...namedIn(part)]));
}

/** "1 page", "3 pages". */
export function count(number: number, noun: string): string {
  const plural = noun.endsWith("y")
    ? `${noun.slice(0, -1)}ies`
    : noun.endsWith("sh")
      ? `${noun}es`
      : `${noun}s`;
  return `${number} ${number === 1 ? noun : plural}`;
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
  const finish = doc.finishes.find(({ key }) => key === to.finish);
  return finish ? `finish "${say(doc, finish.title)}"` : `finish ${to.finish} (gone)`;
}
