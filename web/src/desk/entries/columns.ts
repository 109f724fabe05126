/** The columns of the table of entries: how they are named, laid out and asked for. */
import type { Kind } from "../document";
import type { Subject } from "../subjects";
import type { Placed } from "../views/layout";
import type { Column as ViewColumn } from "../views/view";
import type { TableColumn } from "./data";

export interface Column extends ViewColumn {
  of: TableColumn;
}

export type PlacedColumn = Placed<Column>;

/** Facts that are put away where a view does not say. */
const AWAY = new Set([
  "entry.care",
  "entry.about",
  "entry.number",
  "entry.edition",
  "entry.time",
  "entry.weekday",
  "entry.language",
  "entry.link",
  "entry.finish",
  "entry.corrected",
  "entry.archived",
]);

function noteOf({ restricted, fact, key, meanings }: TableColumn): string {
  if (restricted) return "restricted";
  if (fact) return "";
  return meanings?.length ? `${key}, changed` : key;
}

/** How it was asked in the editions before, where that was otherwise. */
function toldOf({ meanings = [], other = [] }: TableColumn): string[] {
  return meanings.map(({ since, until, words, kind }) => {
    const editions = since === until ? `Edition ${since}` : `Editions ${since} to ${until}`;
    const apart = other.includes(since) ? "; not sorted or filtered with the others" : "";
    return `${editions}: “${words}”, ${kind.toLowerCase()}${apart}`;
  });
}

export function columnsOf(found: readonly TableColumn[]): Column[] {
  return found.map((one) => ({
    key: one.key,
    label: one.key === "entry.arrived" ? "Arrived" : one.label,
    type: one.kind === "carried" && one.options.length ? "pick_one" : one.kind,
    note: noteOf(one),
    told: toldOf(one),
    away: AWAY.has(one.key),
    ...(one.key === "entry.status" ? { width: 116 } : {}),
    ...(one.restricted ? { shut: "restricted" } : {}),
    of: one,
  }));
}

type Asked = Pick<TableColumn, "key" | "label" | "kind" | "options" | "inner">;

function subjectOf({ key, label, kind, options, inner }: Asked): Subject {
  return {
    key,
    label,
    detail: key.startsWith("entry.") ? "" : key,
    kind: kind as Kind,
    options,
    ...(inner?.length ? { inner: inner.map(subjectOf) } : {}),
  };
}

/** What a filter can name: everything but what is restricted. */
export const subjectsOf = (found: readonly TableColumn[]): Subject[] =>
  found.filter(({ restricted }) => !restricted).map(subjectOf);
