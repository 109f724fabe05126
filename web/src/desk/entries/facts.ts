/** What the table says of an entry beside its answers. */
import { entryNumber } from "../document";
import { FIRST } from "../handling";
import { when } from "../when";
import type { Entry, TableColumn } from "./data";

/** Names by what the server calls them: `entry.weekday` and so on. */
export type FactWords = (entry: Entry, column: TableColumn) => string;

const label = ({ options }: TableColumn, code: string): string =>
  options.find((one) => one.code === code)?.label ?? code;

/** Times of day and days of the week are those of the questionnaire's time zone. */
export function factWords(zone: string): FactWords {
  const day = new Intl.DateTimeFormat("en", { weekday: "short", timeZone: zone });
  const time = new Intl.DateTimeFormat("en-GB", { timeStyle: "short", timeZone: zone });
  const said: Record<string, FactWords> = {
    "entry.number": ({ number }) => entryNumber(number),
    "entry.edition": ({ edition }) => String(edition),
    "entry.arrived": ({ arrived }) => when(arrived),
    "entry.time": ({ arrived }) => time.format(new Date(arrived)),
    "entry.weekday": ({ arrived }, column) =>
      label(column, day.format(new Date(arrived)).toLowerCase()),
    "entry.status": ({ status = "" }, column) => label(column, status || FIRST),
    "entry.since": ({ since }) => when(since),
    "entry.care": ({ care }) => care?.name ?? "",
    "entry.about": ({ about }) => about?.id ?? "",
    "entry.finish": ({ finish }) => finish,
    "entry.language": ({ language = "" }, column) => label(column, language),
    "entry.link": ({ link_id: link }, column) => (link ? label(column, link) : ""),
    "entry.entered": ({ entered = "" }, column) => (entered ? label(column, entered) : ""),
    "entry.corrected": ({ corrected }) => (corrected ? "Yes" : "No"),
    "entry.archived": ({ archived }) => (archived ? "Yes" : "No"),
  };
  return (entry, column) => said[column.key]?.(entry, column) ?? "";
}
