/** What the columns of a register take, as the server has it, and what cells read as. */
import type { Schema } from "../../client/client";
import { COLUMNS } from "../../client/kinds";
import { holdsOf } from "../condition/words";
import type { Subject } from "../subjects";
import type { Placed } from "../views/layout";

export type Column = Schema<"Column">;

export type PlacedColumn = Placed<Column>;

export type ColumnType = NonNullable<Schema<"Column">["type"]>;

export const PICKED: readonly string[] = ["pick_one", "pick_many"];

export type Cell = Schema<"RegisterRowOut">["values"][string];

/** The names of the people whom cells name, by id. */
export type People = ReadonlyMap<string, string>;

export const NOBODY: People = new Map();

export const TYPES: Record<ColumnType, string> = {
  text: "short text",
  long_text: "long text",
  number: "number",
  date: "date",
  time: "time",
  date_time: "date and time",
  yes_no: "yes or no",
  pick_one: "pick one",
  pick_many: "pick many",
  email: "mail address",
  phone: "phone",
  web_address: "web address",
  person: "person",
  files: "files",
  entry: "entry",
  computed: "computed",
};

const TAKES: Partial<Record<ReturnType<typeof holdsOf>, readonly ColumnType[]>> = COLUMNS;

/** Whether a column of a type can take what a subject holds. */
export function fits(type: ColumnType | undefined, subject: Subject): boolean {
  if (!type || type === "text" || type === "long_text") return true;
  return TAKES[holdsOf(subject)]?.includes(type) ?? false;
}

/** The column that suits an item best. */
export function columnFor(subject: Subject): Schema<"Column"> {
  const label = subject.label.slice(0, 80);
  const plain = { key: subject.key, label };
  switch (subject.kind) {
    case "email":
    case "phone":
    case "web_address":
    case "long_text":
      return { ...plain, type: subject.kind };
    default: {
      const held = holdsOf(subject);
      const [type] = held === "text" ? [] : (TAKES[held] ?? []);
      if (type !== "pick_one" && type !== "pick_many") return { ...plain, type: type ?? "text" };
      const options = subject.options.map(({ code, label: said }) => ({
        code,
        label: said.slice(0, 80),
      }));
      return options.length ? { ...plain, type, options } : { ...plain, type: "text" };
    }
  }
}

const DAY = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  year: "numeric",
  timeZone: "UTC",
});

const dayWords = (iso: string) => {
  const day = new Date(`${iso}T00:00:00Z`);
  return Number.isNaN(day.getTime()) ? iso : DAY.format(day).replace("Sept", "Sep");
};

/** A moment in UTC as it is read and written where staff are: `2026-11-27 14:05`. */
function momentWords(iso: string): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return iso;
  const two = (number: number) => String(number).padStart(2, "0");
  const day = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  return `${day} ${two(at.getHours())}:${two(at.getMinutes())}`;
}

/** A cell as it reads in its column; what is written reads back as the same cell. */
export function cellWords(
  cell: Cell | undefined | null,
  column: Column | undefined,
  people: People = NOBODY,
): string {
  if (cell === undefined || cell === null) return "";
  if (typeof cell === "boolean") return cell ? "Yes" : "No";
  const said = (code: string) =>
    column?.options?.find((option) => option.code === code)?.label ?? people.get(code) ?? code;
  if (typeof cell !== "string") {
    if (column?.type === "files") return cell.length === 1 ? "1 file" : `${cell.length} files`;
    return cell.map(said).join(", ");
  }
  if (column?.type === "date") return dayWords(cell);
  if (column?.type === "date_time") return momentWords(cell);
  return said(cell);
}
