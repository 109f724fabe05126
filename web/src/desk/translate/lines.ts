/** Every text of a draft by where it stands, and how its translation stands to it.
 *
 * `jotgate/core/document/translations.py` does the same for files; a test there holds the list of members. */
import { RIGHT_TO_LEFT } from "../../client/kinds";
import { first, type Doc, type Text } from "../document";
import MEMBERS from "./members.json";

export interface Line {
  /** Its place, such as `items/source/options/own/label`. */
  at: string;
  text: Text;
}

export type State = "missing" | "older" | "current";

/** What follows a language where the original stands that its words were made from. */
const OF = "-x-of";

type Part = Readonly<Record<string, unknown>>;

const isPart = (value: unknown): value is Part =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const texts = new Set(MEMBERS);

function nameOf(part: Part, at: string, number: number): string {
  const { key, kind, code } = part as { key?: string; kind?: string; code?: string };
  if (key) return kind ? `items/${key}` : `${at}/${key}`;
  return `${at}/${code ?? number + 1}`;
}

/** `part` with each of its texts as `change` makes it; the same object where nothing changed. */
function changed<T>(part: T, at: string, change: (at: string, text: Text) => Text): T {
  if (!isPart(part)) return part;
  const place = (name: string) => (at ? `${at}/${name}` : name);
  const [own, rest] = [true, false].map((whether) =>
    Object.entries(part).filter(([name, one]) => (texts.has(name) && isPart(one)) === whether),
  );
  const next: Record<string, unknown> = {};
  const keep = (name: string, one: unknown) => {
    if (one !== part[name]) next[name] = one;
  };
  for (const [name, one] of own ?? []) keep(name, change(place(name), one as Text));
  for (const [name, one] of rest ?? []) {
    if (!Array.isArray(one)) keep(name, changed(one, place(name), change));
    else keep(name, listed(one, place(name), change));
  }
  return Object.keys(next).length ? { ...part, ...next } : part;
}

function listed(list: unknown[], at: string, change: (at: string, text: Text) => Text): unknown[] {
  const next = list.map((one, number) =>
    isPart(one) ? changed(one, nameOf(one, at, number), change) : one,
  );
  return next.every((one, number) => one === list[number]) ? list : next;
}

/** The texts that have an original, in reading order. */
export function linesOf(doc: Doc): Line[] {
  const found: Line[] = [];
  changed(doc, "", (at, text) => {
    if (text[first(doc)]?.trim()) found.push({ at, text });
    return text;
  });
  return found;
}

export function stateOf(text: Text, language: string, original: string): State {
  if (!text[language]?.trim()) return "missing";
  return (text[language + OF] ?? text[original]) === text[original] ? "current" : "older";
}

/** The draft with `words` in `language` for the text at `place`, made from what is there now. */
export function translated(doc: Doc, place: string, language: string, words: string): Doc {
  return changed(doc, "", (at, text) => {
    if (at !== place) return text;
    const own = [language, language + OF];
    const others = Object.fromEntries(Object.entries(text).filter(([tag]) => !own.includes(tag)));
    const original = text[first(doc)] ?? "";
    return words ? { ...others, [language]: words, [language + OF]: original } : others;
  });
}

/** How many texts of a draft are missing, or older than their original, in all its languages. */
export function left(doc: Doc): number {
  const [original = "", ...others] = doc.languages ?? [];
  const lines = linesOf(doc);
  return others.reduce(
    (sum, language) =>
      sum + lines.filter(({ text }) => stateOf(text, language, original) !== "current").length,
    0,
  );
}

/** What a language calls itself, its tag where the browser does not know. */
export function autonym(language: string): string {
  try {
    return new Intl.DisplayNames([language], { type: "language" }).of(language) ?? language;
  } catch {
    return language;
  }
}

const RTL: ReadonlySet<string> = new Set(RIGHT_TO_LEFT);

export const directionOf = (language: string): "rtl" | "ltr" =>
  RTL.has(language.split("-")[0] ?? "") ? "rtl" : "ltr";
