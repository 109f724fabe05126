/** What was done in a grid and can be taken back. */
import type { Cell } from "../columns";

export interface CellChange {
  row: number;
  column: string;
  before: Cell | null;
  after: Cell | null;
}

export interface Step {
  cells: readonly CellChange[];
  /** Rows that were added, or taken out. */
  added: readonly number[];
  removed: readonly number[];
}

export const inverse = ({ cells, added, removed }: Step): Step => ({
  cells: cells.map(({ row, column, before, after }) => ({
    row,
    column,
    before: after,
    after: before,
  })),
  added: removed,
  removed: added,
});

const MOST = 200;

/** The steps that can be taken back, and those that were. */
export class History {
  private done: Step[] = [];
  private undone: Step[] = [];

  note(step: Step): void {
    if (!step.cells.length && !step.added.length && !step.removed.length) return;
    this.done = [...this.done.slice(1 - MOST), step];
    this.undone = [];
  }

  /** The step to be taken back, as what is to be done for it. */
  back(): Step | null {
    const step = this.done.pop();
    if (!step) return null;
    this.undone.push(step);
    return inverse(step);
  }

  /** The step to be done again. */
  forth(): Step | null {
    const step = this.undone.pop();
    if (!step) return null;
    this.done.push(step);
    return step;
  }

  get canBack(): boolean {
    return this.done.length > 0;
  }

  get canForth(): boolean {
    return this.undone.length > 0;
  }
}
