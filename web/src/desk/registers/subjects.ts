/** Columns as conditions and formulas name them. */
import type { Kind } from "../document";
import type { Subject } from "../subjects";
import { NOBODY, type Column, type ColumnType, type People } from "./columns";

const KINDS: Record<ColumnType, Kind> = {
  text: "short_text",
  long_text: "long_text",
  number: "number",
  date: "date",
  time: "time",
  date_time: "date_time",
  yes_no: "yes_no",
  pick_one: "pick_one",
  pick_many: "pick_many",
  email: "email",
  phone: "short_text",
  web_address: "web_address",
  person: "pick_one",
  files: "file",
  entry: "number",
  computed: "number",
};

function subjectOf(column: Column, known: readonly Column[], people: People): Subject {
  const { key, label, type = "text", formula } = column;
  const [first] = formula?.do === "first" ? formula.of : [];
  const source = first ? known.find((one) => one.key === first && one !== column) : undefined;
  if (source && !source.formula) return { ...subjectOf(source, known, people), key, label };
  const named = [...people].map(([code, name]) => ({ code, label: name }));
  return {
    key,
    label,
    kind: KINDS[type],
    options: type === "person" ? named : (column.options ?? []),
  };
}

/** What a condition or a formula can name of a row. */
export const subjectsOf = (columns: readonly Column[], people: People = NOBODY): Subject[] =>
  columns.map((column) => subjectOf(column, columns, people));
