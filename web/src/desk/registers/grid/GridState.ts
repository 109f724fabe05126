/**
 * What stands where in a grid, and what is selected. Rows keep their places while others write; asked
 * for anew, they are put in order.
 */
import { dequal } from "dequal";

import type { Cell } from "../columns";
import type { News, Order, Row } from "../data";
import { isHead, linesOf, stepped, type Group, type Line } from "./lines";

/** A cell by its row and its column. The row 0 is that of the names. */
export interface Spot {
  row: number;
  column: string;
}

export const HEAD = 0;

export const spotKey = (row: number, column: string): string => `${row}/${column}`;

/** Rows that are read at once. */
const AT_ONCE = 200;

export class GridState {
  lines: readonly Line[] = [];
  groups: readonly Group[] = [];
  columns: readonly string[] = [];
  active: Spot | null = null;
  /** The other corner of what is selected. */
  anchor: Spot | null = null;
  fresh: ReadonlySet<number> = new Set();
  trouble = "";
  /** How many lines were put above the others since the order was asked for. */
  above = 0;
  mark = 0;
  protected cache = new Map<number, Row>();
  private wanted = new Set<number>();
  /** Where a line was found last: the next one asked for is mostly near. */
  private found = 0;
  private version = 0;
  private watchers = new Set<() => void>();

  constructor(private readonly readRows: (ids: readonly number[]) => Promise<Row[]>) {}

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  current = (): number => this.version;

  protected changed(): void {
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

  protected setLines(lines: readonly Line[]): void {
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

  protected async read(ids: readonly number[]): Promise<void> {
    for (const id of ids) this.wanted.add(id);
    try {
      for (const row of await this.readRows(ids)) this.cache.set(row.id, row);
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

  protected arrive(ids: readonly number[]): void {
    const above = [...ids].sort((a, b) => b - a);
    this.setLines([...above, ...this.lines]);
    this.fresh = new Set([...this.fresh, ...ids]);
    this.above += ids.length;
  }

  protected drop(ids: ReadonlySet<number>): void {
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
}
