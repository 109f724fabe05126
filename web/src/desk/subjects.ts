/** What conditions, checks and formulas can name: items by what staff call them, facts of the visitor. */
import type { Schema } from "../client/client";
import { arrives, isCarried } from "./carried";
import {
  say,
  isValued,
  inside,
  optionsOf,
  itemsOf,
  everyItem,
  everyKeyed,
  type Doc,
  type Item,
  type Condition,
  type Kind,
} from "./document";
import { proposed } from "./staffNames";

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
export const FACTS: readonly Subject[] = [
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
    (one) => isCarried(one) && arrives(one) && !asked.includes(one),
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

/** What staff read for the item with `key`; the key where there is none. */
export function nameOf(doc: Doc, key: string): string {
  const item = itemsByKey(doc).get(key);
  return item ? staffName(doc, item) : key;
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
