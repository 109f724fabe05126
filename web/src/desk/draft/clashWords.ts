/** What clashes, in the words of those who wrote it. */
import { KIND_NAMES, say, everyKeyed, type Condition, type Doc, type Item } from "../document";
import { count } from "../document";
import { subjectOf } from "../subjects";
import { sentence } from "../condition/words";
import type { Clashing } from "./merge/parts";

const MEMBERS: Readonly<Record<string, string>> = {
  text: "words",
  help: "help",
  placeholder: "example inside the field",
  error_text: "words when the answer will not do",
  shown_when: "shown when",
  required: "required",
  required_when: "required when",
  restricted: "restricted",
  label: "words",
  title: "heading",
  message: "message",
  kind: "kind",
  page: "page it stands on",
  skips: "skip rules",
  checks: "checks",
  languages: "languages",
  time_zone: "time zone",
  look: "look",
  accent: "accent colour",
  picture: "header picture",
  onward: "words of the button onward",
  back: "words of the button back",
  send: "words of the button at the end",
};

const kinds: Readonly<Record<string, string | undefined>> = KIND_NAMES;

/** "source, option own, words (es)" for `items/source/options/own/label/es`. */
export function clashName(doc: Doc, path: string): string {
  const [first, key, ...rest] = path.split("/");
  const whole = ["items", "pages", "finishes"].includes(first ?? "");
  const start = whole ? (first === "pages" ? `page ${key}` : (key ?? "")) : (first ?? "");
  const further = (whole ? rest : [key ?? "", ...rest]).filter(Boolean);
  const words = further.map((name) =>
    (doc.languages ?? []).includes(name)
      ? `(${name})`
      : (MEMBERS[name] ?? name.replaceAll("_", " ")),
  );
  const original = `(${doc.languages?.[0] ?? "en"})`;
  return [
    MEMBERS[start] && !whole ? MEMBERS[start] : start,
    ...words.filter((one) => one !== original),
  ].join(", ");
}

/** A version of what clashes, in few words; null where it was deleted. */
export function clashValue(doc: Doc, { path }: Clashing, value: unknown): string | null {
  if (value === undefined || value === null) return path.endsWith("shown_when") ? "always" : null;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "string") return kinds[value] ?? value;
  if (typeof value === "number") return String(value);
  if (Array.isArray(value)) return count(value.length, "entry");
  const part = value as Partial<Item> & { title?: Record<string, string>; op?: string };
  if (part.op) {
    return sentence(
      value as Condition,
      everyKeyed(doc).map((one) => subjectOf(doc, one)),
    );
  }
  const kind = part.kind ? ` (${KIND_NAMES[part.kind]})` : "";
  return (say(doc, part.text ?? part.title) || "no words yet") + kind;
}
