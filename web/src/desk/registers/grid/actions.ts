/** What can be done with what is selected: cleared, filled down, copied, pasted over. */
import { asText, blockOf } from "./clipboard";
import { cellWords, type Cell, type Column, type People } from "../columns";
import { type AddedRow, type Given, type Grid } from "./Grid";
import { HEAD } from "./GridState";
import { isHead } from "./lines";

/** Cells that are written at once at most. */
export const MOST_CELLS = 20_000;

/** Rows that are added at once at most. */
const MOST_ADDED = 1_000;

/** What was not done, and why; empty where everything was. */
export type Told = string;

const TOO_MANY = `More than ${MOST_CELLS.toLocaleString("en")} cells are too many for one step.`;

export async function clear(grid: Grid): Promise<Told> {
  const { rows, columns } = grid.selection();
  if (rows.length * columns.length > MOST_CELLS) return TOO_MANY;
  await grid.know(rows);
  const edits = rows.flatMap((row) =>
    columns
      .filter((column) => grid.cell(row, column) !== null)
      .map((column) => ({ row, column, given: null })),
  );
  if (edits.length) void grid.write(edits);
  return "";
}

/** The first row of what is selected into the others; of one row alone, the row above it. */
export async function fillDown(grid: Grid): Promise<Told> {
  const { rows, columns } = grid.selection();
  const [first] = rows;
  if (first === undefined) return "";
  if (rows.length * columns.length > MOST_CELLS) return TOO_MANY;
  const above = grid.lines.slice(0, grid.lineOf(first)).findLast((line) => !isHead(line));
  const from = rows.length > 1 ? first : above;
  if (from === undefined) return "There is no row above to fill from.";
  const into = rows.length > 1 ? rows.slice(1) : rows;
  await grid.know([from, ...into]);
  const edits = into.flatMap((row) =>
    columns.map((column) => ({ row, column, given: grid.cell(from, column) })),
  );
  void grid.write(edits);
  return "";
}

/** What is selected, as text for the clipboard. */
export function copied(grid: Grid, known: readonly Column[], people: People): string {
  const { rows, columns } = grid.selection();
  const named = columns.map((key) => known.find((one) => one.key === key));
  return asText(
    rows.map((row) => named.map((one) => cellWords(one && grid.cell(row, one.key), one, people))),
  );
}

/** Write a block of text over the cells from the first that is selected on. */
export async function paste(grid: Grid, text: string): Promise<Told> {
  const block = blockOf(text);
  const { rows, columns } = grid.selection();
  const [first] = rows;
  const [column] = columns;
  if (!block.length || first === undefined || column === undefined) return "";
  const [[single = ""] = []] = block;
  const alone = block.length === 1 && block[0]?.length === 1;
  const edits = alone ? rows.flatMap((row) => columns.map((key) => given(row, key, single))) : [];
  if (alone) return send(grid, edits, []);
  const there = grid.columns.slice(grid.columns.indexOf(column));
  const under = grid.lines.slice(grid.lineOf(first)).filter((line) => !isHead(line));
  const wide = block[0]?.length ?? 0;
  const added: AddedRow[] = [];
  block.forEach((line, at) => {
    const row = under[at];
    const cells = there.slice(0, wide).map((key, number) => [key, line[number] ?? ""] as const);
    if (row === undefined) added.push(Object.fromEntries(cells));
    else edits.push(...cells.map(([key, cell]) => given(row, key, cell)));
  });
  const over = wide - there.length;
  const left =
    over > 0
      ? `${over === 1 ? "1 column" : `${over} columns`} of it went beyond the last column, and was left out.`
      : "";
  return (await send(grid, edits, added)) || left;
}

const given = (row: number, column: string, cell: Cell): Given => ({ row, column, given: cell });

async function send(
  grid: Grid,
  edits: readonly Given[],
  added: readonly AddedRow[],
): Promise<Told> {
  if (edits.length > MOST_CELLS) return TOO_MANY;
  if (added.length > MOST_ADDED)
    return `${added.length.toLocaleString("en")} rows of it go beyond the last row. Import a file for so many.`;
  await grid.know([...new Set(edits.map(({ row }) => row))]);
  void grid.write(edits, added);
  return "";
}

export interface Hands {
  grid: Grid;
  /** Rows that can be seen at once. */
  page: number;
  mayWrite: boolean;
  /** Begin to write in the active cell, over what stands there where a text is given. */
  begin: (text: string | null) => void;
  openHead: (column: string) => void;
  openRow: (row: number) => void;
  tell: (doing: Promise<Told>) => void;
}

type Key = Pick<KeyboardEvent, "key" | "shiftKey" | "ctrlKey" | "metaKey" | "altKey">;

const FAR = Number.MAX_SAFE_INTEGER;

const STEPS: Record<string, (page: number, far: boolean) => readonly [number, number]> = {
  ArrowDown: (_, far) => [far ? FAR : 1, 0],
  ArrowUp: (_, far) => [far ? -FAR : -1, 0],
  ArrowRight: (_, far) => [0, far ? FAR : 1],
  ArrowLeft: (_, far) => [0, far ? -FAR : -1],
  PageDown: (page) => [page, 0],
  PageUp: (page) => [-page, 0],
  Home: (_, far) => [far ? -FAR : 0, -FAR],
  End: (_, far) => [far ? FAR : 0, FAR],
};

/** Do what a key stands for in a grid; whether it stands for anything. */
export function pressed(event: Key, hands: Hands): boolean {
  const { grid } = hands;
  if (!grid.active) return false;
  const far = event.ctrlKey || event.metaKey;
  const step = STEPS[event.key]?.(hands.page, far);
  if (step) {
    grid.move(...step, event.shiftKey);
    return true;
  }
  if (event.key === "Tab") return tabbed(grid, event.shiftKey);
  if (event.key === "Enter" && event.altKey) {
    if (grid.active.row !== HEAD) hands.openRow(grid.active.row);
    return true;
  }
  if (event.key === "Enter" && grid.active.row === HEAD) {
    hands.openHead(grid.active.column);
    return true;
  }
  if (far && event.key.toLowerCase() === "a") {
    grid.go({
      row: grid.lines.find((line) => !isHead(line)) ?? HEAD,
      column: grid.columns[0] ?? "",
    });
    grid.move(FAR, FAR, true);
    return true;
  }
  return hands.mayWrite && grid.active.row !== HEAD && wrote(event, hands, far);
}

/** To the next cell of the row; past its ends out of the grid. */
function tabbed(grid: Grid, back: boolean): boolean {
  const at = grid.columns.indexOf(grid.active?.column ?? "");
  const next = at + (back ? -1 : 1);
  if (next < 0 || next >= grid.columns.length) return false;
  grid.move(0, next - at);
  return true;
}

function wrote(event: Key, hands: Hands, far: boolean): boolean {
  const { grid } = hands;
  const key = event.key.toLowerCase();
  if (far && key === "d") hands.tell(fillDown(grid));
  else if (far && key === "z" && event.shiftKey) void grid.redo();
  else if (far && key === "z") void grid.undo();
  else if (far && key === "y") void grid.redo();
  else if (event.key === "Enter" || event.key === "F2") hands.begin(null);
  else if (event.key === "Delete" || event.key === "Backspace") hands.tell(clear(grid));
  else if (event.key === "Escape" && grid.active && grid.at(grid.active.row, grid.active.column))
    grid.dismiss(grid.active.row, grid.active.column);
  else if (event.key.length === 1 && !far && !event.altKey) hands.begin(event.key);
  else return false;
  return true;
}
