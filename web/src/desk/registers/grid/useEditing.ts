/** The cell that is being written. */
import { useCallback, useRef, useState } from "react";

import { cellWords, type Cell, type Column, type People } from "../columns";
import type { Onward } from "./CellEditor";
import type { Grid } from "./Grid";
import type { Spot } from "./GridState";

export interface Editing extends Spot {
  text: string;
  /** What stood there when it was begun. */
  before: Cell | null;
  /** The words that it began with. */
  began: string;
}

const STEPS: Record<Onward, readonly [number, number]> = {
  down: [1, 0],
  up: [-1, 0],
  right: [0, 1],
  left: [0, -1],
  stay: [0, 0],
};

export function useEditing(grid: Grid, columns: readonly Column[], people: People) {
  const [editing, setEditing] = useState<Editing | null>(null);
  const open = useRef<Editing | null>(null);
  const put = useCallback((next: Editing | null) => {
    open.current = next;
    setEditing(next);
  }, []);

  const begin = useCallback(
    (typed: string | null) => {
      const spot = grid.active;
      const column = columns.find(({ key }) => key === spot?.column);
      if (!spot || !column || column.type === "computed" || column.type === "files") return;
      const given = grid.at(spot.row, spot.column);
      const before = given?.now === undefined ? grid.cell(spot.row, spot.column) : given.now;
      const words = cellWords(given ? given.typed : before, column, people);
      put({ ...spot, before, began: given ? "\0" : words, text: typed ?? words });
    },
    [grid, columns, people, put],
  );

  /** Write what was typed, and go on. */
  const done = useCallback(
    (onward: Onward) => {
      const now = open.current;
      if (!now) return;
      put(null);
      if (now.text !== now.began) {
        const { row, column, before, text } = now;
        void grid.write([{ row, column, given: text, before }]);
      }
      if (onward !== "stay") grid.move(...STEPS[onward]);
    },
    [grid, put],
  );

  const cancel = useCallback(() => {
    const now = open.current;
    put(null);
    if (now) grid.dismiss(now.row, now.column);
  }, [grid, put]);

  const type = useCallback(
    (text: string) => {
      if (open.current) put({ ...open.current, text });
    },
    [put],
  );

  return { editing, begin, done, cancel, type };
}
