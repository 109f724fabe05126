/** What the columns of a register take, as the server has it. */
import type { Schema } from "../../client/client";
import { COLUMNS } from "../../client/kinds";
import { holdsOf } from "../condition/words";
import type { Subject } from "../subjects";
import { whole } from "../when";

export type ColumnType = NonNullable<Schema<"Column">["type"]>;

export type Cell = Schema<"RowPlannedOut">["values"][string];

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

/** A cell as it reads in its column. */
export function cellWords(cell: Cell | undefined, column: Schema<"Column"> | undefined): string {
  if (cell === undefined) return "";
  if (typeof cell === "boolean") return cell ? "Yes" : "No";
  if (column?.type === "date_time" && typeof cell === "string") return whole(cell);
  const said = (code: string) =>
    column?.options?.find((option) => option.code === code)?.label ?? code;
  return typeof cell === "string" ? said(cell) : cell.map(said).join(", ");
}
