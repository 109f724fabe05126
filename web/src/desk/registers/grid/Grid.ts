/**
 * The state of one grid: what stands where, what is selected, what was written and refused. It
 * keeps its rows where they stand while others write; asked for anew, it is put in order.
 */
import { dequal } from "dequal";

import { ApiError } from "../../../client/client";
import type { Cell } from "../columns";
import type { CellsIn, CellsOut, News, Order, Refused, Row } from "../data";
import { History, type CellChange, type Step } from "./history";
import { isHead, linesOf, stepped, type Group, type Line } from "./lines";

/** A cell by its row and its column. The row 0 is that of the names. */
export interface Spot {
  row: number;
  column: string;
}

export const HEAD = 0;

export const spotKey = (row: number, column: string): string => `${row}/${column}`;

/** What was given for a cell and does not stand there yet, or not at all: `why` not. */
export interface Unsettled {
  typed: Cell | null;
  why: string;
  /** What stands there, where somebody else changed it. */
  now?: Cell | null;
}

export interface Given {
  row: number;
  column: string;
  given: Cell | null;
  /** What stood there when it was begun; what is known now, where that is left out. */
  before?: Cell | null;
}

export type AddedRow = Record<string, Cell | null>;

/** A block of which something was refused: nothing of it was written yet. */
export interface Held {
  edits: readonly Given[];
  added: readonly AddedRow[];
  refused: readonly Refused[];
}

export interface Server {
  rows: (ids: readonly number[]) => Promise<Row[]>;
  write: (body: CellsIn) => Promise<CellsOut>;
  remove: (ids: number[], back: boolean) => Promise<number[]>;
}

/** Rows that are read at once. */
const AT_ONCE = 200;

export class Grid {
  lines: readonly Line[] = [];
  groups: readonly Group[] = [];
  columns: readonly string[] = [];
  active: Spot | null = null;
  /** The other corner of what is selected. */
  anchor: Spot | null = null;
  fresh: ReadonlySet<number> = new Set();
  held: Held | null = null;
  trouble = "";
  /** How many lines were put above the others since the order was asked for. */
  above = 0;
  mark = 0;
  readonly history = new History();
  private cache = new Map<number, Row>();
  private unsettled = new Map<string, Unsettled>();
  private wanted = new Set<number>();
  private waiting: Promise<unknown> = Promise.resolve();
  /** Where a line was found last: the next one asked for is mostly near. */
  private found = 0;
  private version = 0;
  private watchers = new Set<() => void>();

  constructor(private readonly server: Server) {}

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  current = (): number => this.version;

  private changed(): void {
    this.version += 1;
    for (const watcher of this.watchers) watcher();
  }

  /** Stand as the server has ordered it. */
  order(order: Order): void {
    this.setLines(linesOf(order));
    this.groups = order.groups;
    this.mark = order.mark;
    this.fresh = new Set();
    this.above = 0;
    this.changed();
  }

  /** Which columns are shown, in the order in which they stand. */
  show(columns: readonly string[]): void {
    this.columns = columns;
  }

  private setLines(lines: readonly Line[]): void {
    this.lines = lines;
  }

  /** The number of the line on which a row stands, or the head of a group; -1 where it does not. */
  lineOf(line: Line): number {
    const near = Math.max(0, this.found - 100);
    const at = this.lines.slice(near, near + 200).indexOf(line);
    const place = at < 0 ? this.lines.indexOf(line) : near + at;
    if (place >= 0) this.found = place;
    return place;
  }

  row(id: number): Row | undefined {
    return this.cache.get(id);
  }

  get count(): number {
    return this.lines.length - this.groups.length;
  }

  cell(row: number, column: string): Cell | null {
    return this.cache.get(row)?.values[column] ?? null;
  }

  at(row: number, column: string): Unsettled | undefined {
    return this.unsettled.get(spotKey(row, column));
  }

  get refusals(): number {
    return [...this.unsettled.values()].filter(({ why }) => why).length;
  }

  /** Have the rows of some lines read that are not known yet. */
  async need(from: number, to: number): Promise<void> {
    const there = this.lines.slice(Math.max(0, from), to);
    await this.know(there.filter((line) => !isHead(line) && !this.wanted.has(line)));
  }

  /** Have these rows read, so far as they are not known. */
  async know(ids: readonly number[]): Promise<void> {
    const missing = ids.filter((id) => !this.cache.has(id));
    for (let at = 0; at < missing.length; at += AT_ONCE)
      await this.read(missing.slice(at, at + AT_ONCE));
  }

  private async read(ids: readonly number[]): Promise<void> {
    for (const id of ids) this.wanted.add(id);
    try {
      for (const row of await this.server.rows(ids)) this.cache.set(row.id, row);
      this.trouble = "";
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : String(error);
    } finally {
      for (const id of ids) this.wanted.delete(id);
      this.changed();
    }
  }

  /** Take in what others, and rules, wrote meanwhile. */
  news({ rows, mark }: News): void {
    const arrived: number[] = [];
    const gone = new Set<number>();
    let seen = false;
    for (const { row, fits, removed } of rows) {
      const stands = this.lineOf(row.id) >= 0;
      if (removed && stands) gone.add(row.id);
      else if (stands || this.cache.has(row.id)) {
        if (dequal(this.cache.get(row.id), row)) continue;
        this.cache.set(row.id, row);
        seen = true;
      } else if (fits) {
        this.cache.set(row.id, row);
        arrived.push(row.id);
      }
    }
    this.mark = mark;
    if (arrived.length) this.arrive(arrived);
    if (gone.size) this.drop(gone);
    if (arrived.length || gone.size || seen) this.changed();
  }

  private arrive(ids: readonly number[]): void {
    const above = [...ids].sort((a, b) => b - a);
    this.setLines([...above, ...this.lines]);
    this.fresh = new Set([...this.fresh, ...ids]);
    this.above += ids.length;
  }

  private drop(ids: ReadonlySet<number>): void {
    if (this.active && ids.has(this.active.row)) {
      const at = this.lineOf(this.active.row);
      const beside = [1, -1].map((way) => this.lines[stepped(this.lines, at, way)] ?? HEAD);
      const next = beside.find((line) => line > 0 && !ids.has(line));
      this.active = next ? { ...this.active, row: next } : null;
      this.anchor = null;
    }
    this.setLines(this.lines.filter((line) => !ids.has(line)));
    for (const id of ids) this.cache.delete(id);
  }

  /** Go to a cell; with `extend` what is selected reaches from where it began to there. */
  go(spot: Spot | null, extend = false): void {
    this.anchor = extend ? (this.anchor ?? this.active) : null;
    this.active = spot;
    this.changed();
  }

  /** So many rows and columns on, as far as there are any. */
  move(rows: number, columns: number, extend = false): void {
    if (!this.active) return;
    const at = this.columns.indexOf(this.active.column);
    const to = Math.min(this.columns.length - 1, Math.max(0, at + columns));
    const column = this.columns[to] ?? this.active.column;
    let { row } = this.active;
    if (rows) {
      const from = row === HEAD ? -1 : this.lineOf(row);
      const next = stepped(this.lines, from, rows);
      row = next < 0 || (next === from && rows === -1) ? HEAD : (this.lines[next] ?? row);
      if (row === HEAD && extend) row = this.active.row;
    }
    this.go({ row, column }, extend);
  }

  /** The rows and columns that are selected, in the order in which they stand. */
  selection(): { rows: number[]; columns: string[] } {
    if (!this.active || this.active.row === HEAD) return { rows: [], columns: [] };
    const other = this.anchor && this.anchor.row !== HEAD ? this.anchor : this.active;
    const [top, bottom] = [this.lineOf(this.active.row), this.lineOf(other.row)].sort(
      (a, b) => a - b,
    );
    const [left, right] = [this.active.column, other.column]
      .map((column) => this.columns.indexOf(column))
      .sort((a, b) => a - b);
    return {
      rows: this.lines.slice(top, (bottom ?? 0) + 1).filter((line) => !isHead(line)),
      columns: this.columns.slice(left, (right ?? 0) + 1),
    };
  }

  /** Write cells and add rows, one call after the other; whether everything was taken. */
  write(
    edits: readonly Given[],
    added: readonly AddedRow[] = [],
    { partly = false, noted = true } = {},
  ): Promise<boolean> {
    for (const { row, column, given } of edits)
      this.unsettled.set(spotKey(row, column), { typed: given, why: "" });
    this.changed();
    const next = this.waiting.then(() => this.send(edits, added, partly, noted));
    this.waiting = next;
    return next;
  }

  private async send(
    given: readonly Given[],
    added: readonly AddedRow[],
    partly: boolean,
    noted: boolean,
  ): Promise<boolean> {
    const edits = given.map((one) => ({
      row: one.row,
      column: one.column,
      given: one.given,
      before: one.before === undefined ? this.cell(one.row, one.column) : one.before,
    }));
    try {
      const body = { edits, added: added.map((one) => ({ ...one })), partly };
      const answer = await this.server.write(body);
      this.answered({ edits: given, added, refused: answer.refused }, answer, noted);
      return answer.taken && !answer.refused.length;
    } catch (error) {
      const why = error instanceof ApiError ? error.message : String(error);
      for (const { row, column, given: typed } of given)
        this.unsettled.set(spotKey(row, column), { typed, why: `Not saved. ${why}` });
      if (added.length) this.trouble = why;
      this.changed();
      return false;
    }
  }

  private answered(held: Held, { taken, rows, refused }: CellsOut, noted: boolean): void {
    const step = this.settle(held.edits, rows);
    if (noted && taken) this.history.note(step);
    for (const one of refused) this.refuse(one, held);
    const single = held.edits.length + held.added.length === 1;
    this.held = !taken && !single ? held : null;
    this.trouble = "";
    this.changed();
  }

  /** Take the rows as they are by now; what was changed by that. */
  private settle(edits: readonly Given[], rows: readonly Row[]): Step {
    const before = new Map(
      edits.map(({ row, column }) => [spotKey(row, column), this.cell(row, column)]),
    );
    const edited = new Set(edits.map(({ row }) => row));
    const added = rows.filter(({ id }) => !edited.has(id)).map(({ id }) => id);
    for (const row of rows) this.cache.set(row.id, row);
    if (added.length) this.arrive(added);
    const cells: CellChange[] = [];
    for (const { row, column } of edits) {
      const key = spotKey(row, column);
      this.unsettled.delete(key);
      const was = before.get(key) ?? null;
      const is = this.cell(row, column);
      if (!dequal(was, is)) cells.push({ row, column, before: was, after: is });
    }
    return { cells, added, removed: [] };
  }

  private refuse({ row, column, code, why, now }: Refused, { edits }: Held): void {
    const edit = edits.find((one) => one.row === row && one.column === column);
    if (!edit) return;
    const other = code === "changed";
    if (other) {
      const known = this.cache.get(row);
      if (known) this.cache.set(row, withCell(known, column, now));
    }
    const told = { typed: edit.given, why, ...(other ? { now } : {}) };
    this.unsettled.set(spotKey(row, column), told);
  }

  /** Write what fits of a block that was held back. */
  takeHeld(): void {
    const { held } = this;
    this.held = null;
    if (held) void this.write(held.edits, held.added, { partly: true });
  }

  leaveHeld(): void {
    for (const { row, column } of this.held?.edits ?? []) this.forget(row, column);
    this.held = null;
    this.changed();
  }

  private forget(row: number, column: string): void {
    this.unsettled.delete(spotKey(row, column));
  }

  /** Let go of what was given for a cell and refused. */
  dismiss(row: number, column: string): void {
    this.forget(row, column);
    this.changed();
  }

  dismissAll(): void {
    this.unsettled = new Map([...this.unsettled].filter(([, { why }]) => !why));
    this.changed();
  }

  /** Take rows out, or put them back. */
  async remove(ids: readonly number[], back = false, noted = true): Promise<void> {
    try {
      const moved = await this.server.remove([...ids], back);
      if (noted) this.history.note({ cells: [], added: [], removed: moved });
      if (back) {
        await this.read(moved);
        this.arrive(moved.filter((id) => this.lineOf(id) < 0));
      } else this.drop(new Set(moved));
      this.trouble = "";
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : String(error);
    }
    this.changed();
  }

  undo(): Promise<void> {
    return this.redoing(this.history.back());
  }

  redo(): Promise<void> {
    return this.redoing(this.history.forth());
  }

  private async redoing(step: Step | null): Promise<void> {
    if (!step) return;
    if (step.cells.length) {
      const edits = step.cells.map(({ row, column, before, after }) => ({
        row,
        column,
        given: after,
        before,
      }));
      await this.write(edits, [], { partly: true, noted: false });
    }
    if (step.removed.length) await this.remove(step.removed, false, false);
    if (step.added.length) await this.remove(step.added, true, false);
  }
}

function withCell(row: Row, column: string, cell: Cell | null | undefined): Row {
  const others = Object.entries(row.values).filter(([key]) => key !== column);
  const own = cell == null ? [] : [[column, cell] as const];
  return { ...row, values: Object.fromEntries([...others, ...own]) };
}
