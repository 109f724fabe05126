/** What dispatch rules can name: everything with a value that is not restricted, and facts of an
 * entry. */
import type { Schema } from "../../client/client";
import { isCarried } from "../carried";
import { everyItem, isValued, inside, say, type Doc } from "../document";
import { FACTS, subjectOf, type Subject } from "../subjects";

type State = Schema<"DispatchOut">;

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

export const choices = (found: readonly Schema<"RuleChoice">[]) =>
  found.map(({ code, name }) => ({ code, label: name }));

function factsOfEntry(doc: Doc, state: State): Subject[] {
  const finishes = doc.finishes.map(({ key, title }) => ({
    code: key,
    label: say(doc, title) || key,
  }));
  const languages = (doc.languages ?? ["en"]).map((code) => ({ code, label: code }));
  const days = DAYS.map((label) => ({ code: label.slice(0, 3).toLowerCase(), label }));
  const found: Subject[] = [
    { key: "entry.finish", label: "Finish", kind: "pick_one", options: finishes },
    { key: "entry.edition", label: "Edition", kind: "number", options: [] },
    { key: "entry.language", label: "Language", kind: "pick_one", options: languages },
    {
      key: "entry.link",
      label: "Link it came by",
      kind: "pick_one",
      options: choices(state.links),
    },
    { key: "entry.weekday", label: "Day of the week it arrived", kind: "pick_one", options: days },
    { key: "entry.time", label: "Time of day it arrived", kind: "time", options: [] },
    { key: "entry.arrived", label: "When it arrived", kind: "date_time", options: [] },
    {
      key: "entry.entered",
      label: "Entered by staff",
      kind: "pick_one",
      options: [
        { code: "phone", label: "On the phone" },
        { code: "paper", label: "On paper" },
        { code: "in_person", label: "In person" },
      ],
    },
    { key: "entry.corrected", label: "It was corrected", kind: "yes_no", options: [] },
    { key: "entry.status", label: "Status", kind: "pick_one", options: choices(state.statuses) },
  ];
  return found.filter(({ kind, options }) => kind !== "pick_one" || options.length);
}

export function openSubjects(doc: Doc, state: State): Subject[] {
  const items = everyItem(doc)
    .filter((item) => isValued(item) && !item.restricted)
    .map((item) => subjectOf(doc, item));
  return [...items, ...factsOfEntry(doc, state), ...FACTS];
}

/** The carried values that rules may set. */
export const carriedOf = (doc: Doc): Subject[] =>
  everyItem(doc)
    .filter((item) => isCarried(item) && !item.restricted && !item.about)
    .map((item) => subjectOf(doc, item));

export const restrictedOf = (doc: Doc): Part[] =>
  everyItem(doc)
    .filter((item) => isValued(item) && item.restricted)
    .map((item) => ({ code: item.key, label: subjectOf(doc, item).label }));

export interface Part {
  code: string;
  label: string;
}

/** The parts of items that are answered in parts, each under `key.part`. */
export function partsOf(doc: Doc): Part[] {
  return everyItem(doc).flatMap((item) => {
    if (item.kind !== "name" && item.kind !== "address") return [];
    if (item.restricted) return [];
    const { label } = subjectOf(doc, item);
    return (item.parts ?? []).map((part) => ({
      code: `${item.key}.${part}`,
      label: `${label}: ${part.replaceAll("_", " ")}`,
    }));
  });
}

/** The rosters that can make a row for each of their entries, with what is asked in each. */
export function rostersOf(doc: Doc): { code: string; label: string; inner: Subject[] }[] {
  return everyItem(doc).flatMap((item) => {
    if (item.kind !== "roster" || item.restricted) return [];
    const inner = inside(item)
      .filter((one) => isValued(one) && !one.restricted)
      .map((one) => subjectOf(doc, one));
    return [{ code: item.key, label: subjectOf(doc, item).label, inner }];
  });
}
