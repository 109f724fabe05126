/** A grid that is written in: what was given for its cells, what was refused, and what is taken back. */
import { dequal } from "dequal";

import { ApiError } from "../../../client/client";
import type { Cell } from "../columns";
import type { CellsIn, CellsOut, Refused, Row } from "../data";
import { GridState, spotKey } from "./GridState";
import { History, type CellChange, type Step } from "./history";

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

export class Grid extends GridState {
  held: Held | null = null;
  readonly history = new History();
  private unsettled = new Map<string, Unsettled>();
  private waiting: Promise<unknown> = Promise.resolve();
  constructor(private readonly server: Server) {
    super(server.rows);
  }

  at(row: number, column: string): Unsettled | undefined {
    return this.unsettled.get(spotKey(row, column));
  }

  get refusals(): number {
    return [...this.unsettled.values()].filter(({ why }) => why).length;
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
