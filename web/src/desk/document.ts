/** The parts of a questionnaire document by their names, and small questions about them. */
import type { Schema } from "../client/client";

export type Doc = Schema<"Questionnaire">;
export type Page = Schema<"Page">;
export type Item = NonNullable<Page["items"]>[number];
export type Finish = Schema<"Finish">;
export type Option = Schema<"Option">;
export type Skip = Schema<"SkipRule">;
export type Condition = Skip["when"];
export type Text = Record<string, string>;
export type Kind = Item["kind"];
export type Question = Exclude<Item, Schema<"Note"> | Schema<"Carried">>;

export const KINDS: Record<Kind, string> = {
  short_text: "Short text",
  long_text: "Long text",
  email: "Email",
  phone: "Phone",
  web_address: "Web address",
  number: "Number",
  date: "Date",
  time: "Time",
  yes_no: "Yes or no",
  pick_one: "Pick one",
  pick_many: "Pick many",
  scale: "Scale",
  note: "Note",
  carried: "Carried value",
};

export function first(doc: Doc): string {
  return doc.languages?.[0] ?? "en";
}

export function say(doc: Doc, text: Text | undefined): string {
  return text?.[first(doc)] ?? "";
}

export function isQuestion(item: Item): item is Question {
  return item.kind !== "note" && item.kind !== "carried";
}

/** The items that a respondent or a link picks from. */
export type Picking = Schema<"PickOne"> | Schema<"PickMany"> | Schema<"Carried">;

export function hasOptions(item: Item): item is Picking {
  return item.kind === "pick_one" || item.kind === "pick_many" || item.kind === "carried";
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

/** What a condition can name, in the words of the one who writes it. */
export interface Subject {
  key: string;
  label: string;
  /** More about it, where there is room for that. */
  detail?: string;
  kind: Kind;
  options: readonly { code: string; label: string }[];
}

export function subjectOf(doc: Doc, item: Item): Subject {
  return {
    key: item.key,
    label: say(doc, item.text) || item.key,
    kind: item.kind,
    options: optionsOf(item).map(({ code, label }) => ({
      code,
      label: say(doc, label) || code,
    })),
  };
}

/** What stands before a place: carried values, and the questions asked earlier. */
export function earlier(doc: Doc, page: number, item: number): Subject[] {
  const asked = doc.pages.flatMap((one, at) => {
    if (at < page) return itemsOf(one);
    return at === page ? itemsOf(one).slice(0, item) : [];
  });
  const carried = everyItem(doc).filter((one) => one.kind === "carried" && !asked.includes(one));
  return [...asked, ...carried]
    .filter((one) => one.kind !== "note")
    .map((one) => subjectOf(doc, one));
}

/** The subjects under their keys, as the script shows them below each question. */
export function byKey(subjects: readonly Subject[]): Subject[] {
  return subjects.map((subject) => ({
    ...subject,
    label: subject.key,
    detail: subject.label,
  }));
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
