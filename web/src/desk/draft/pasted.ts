/** Options and rows from what was typed or pasted: one column, or labels beside their codes. */
import { parse } from "papaparse";

import { count, type Text } from "../document";
import { keyFrom } from "../keys";

interface Coded {
  code: string;
  label: Text;
}

export interface Pasted<T extends Coded> {
  parts: (T | Coded)[];
  /** What was done with the lines, empty where that needs no telling. */
  remark: string;
}

const CODE = /^[A-Za-z0-9][A-Za-z0-9_.-]{0,39}$/;
const BULLET = /^(?:[-–—•·▪◦*]\s+|\(?(?:\d{1,3}|[A-Za-z])[.)]\s+)/;
const LABELS =
  /^(?:labels?|options?|answers?|choices?|text|names?|words|etiquetas?|opción|opciones)$/i;
const CODES = /^(?:codes?|values?|keys?|ids?|código|códigos|clave|valor)$/i;

/** The cells of `text`; a cell in quotes can hold tabs and line breaks, as spreadsheets copy it. */
export function cells(text: string): string[][] {
  const { data, errors } = parse<string[]>(text.replace(/\r\n?/g, "\n"), {
    delimiter: "\t",
    newline: "\n",
  });
  // A quote that is not closed is one that somebody wrote.
  if (errors.some(({ type }) => type === "Quotes")) {
    return text.split(/\r?\n/).map((line) => line.split("\t"));
  }
  return data.length ? data : [[""]];
}

const tidy = (cell: string | undefined) => (cell ?? "").replace(/[\s\u00a0]+/g, " ").trim();

interface Lines {
  lines: { label: string; code: string }[];
  empty: number;
  remarks: string[];
}

/** Which of two columns has the codes: the one whose cells all can be, the second where both can. */
function columns(rows: readonly string[][]): { label: number; code: number } {
  const can = (at: number) => {
    const found = rows.map((row) => row[at] ?? "").filter(Boolean);
    return found.length > 0 && found.every((one) => CODE.test(one));
  };
  return !can(1) && can(0) ? { label: 1, code: 0 } : { label: 0, code: 1 };
}

function read(text: string): Lines {
  const all = cells(text).map((row) => row.map(tidy));
  let rows = all.filter((row) => row.some(Boolean));
  const remarks: string[] = [];
  if (!rows.some((row) => row.length > 1)) {
    const bulleted = rows.length > 1 && rows.every(([cell]) => BULLET.test(cell ?? ""));
    const bare = (cell: string) => (bulleted ? cell.replace(BULLET, "") : cell);
    const lines = rows.map(([cell]) => ({ label: bare(cell ?? ""), code: "" }));
    return { lines, empty: all.length - rows.length, remarks };
  }
  const head = rows[0] ?? [];
  const named = head.some((cell) => CODES.test(cell)) && head.some((cell) => LABELS.test(cell));
  let { label, code } = columns(named ? rows.slice(1) : rows);
  if (named) {
    label = head.findIndex((cell) => LABELS.test(cell));
    code = head.findIndex((cell) => CODES.test(cell));
    rows = rows.slice(1);
    remarks.push("The first line names the columns.");
  } else if (rows.some((row) => row.filter(Boolean).length > 2)) {
    remarks.push("Only the first two columns were taken.");
  }
  const lines = rows.map((row) => ({
    label: row[label] || row[code] || "",
    code: row[code] ?? "",
  }));
  return { lines, empty: all.length - rows.length - Number(named), remarks };
}

/** `parts` and, after them, the lines of `text`: trimmed, without doubles, each with its own code. */
export function pasted<T extends Coded>(
  parts: readonly T[],
  text: string,
  language: string,
  spare: string,
): Pasted<T> {
  const { lines, empty, remarks } = read(text);
  const next: (T | Coded)[] = [...parts];
  const taken = new Set(parts.map(({ code }) => code));
  const labels = new Set(parts.map(({ label }) => label[language]));
  let [doubles, changed] = [0, 0];
  for (const { label, code } of lines) {
    if (labels.has(label)) {
      doubles += 1;
      continue;
    }
    const own = CODE.test(code) && !taken.has(code);
    const made = own ? code : keyFrom(code || label, taken, spare);
    if (code && !own) changed += 1;
    taken.add(made);
    labels.add(label);
    next.push({ code: made, label: { [language]: label } });
  }
  const added = next.length - parts.length;
  const left = [
    doubles ? count(doubles, "double") : "",
    empty && lines.length > 1 ? count(empty, "empty line") : "",
  ].filter(Boolean);
  const told = [
    `${count(added, spare)} added.`,
    left.length ? `${left.join(" and ")} left out.` : "",
    changed ? `${count(changed, "code")} changed to be unique and well formed.` : "",
    ...remarks,
  ].filter(Boolean);
  return { parts: next, remark: lines.length > 1 || doubles ? told.join(" ") : "" };
}
