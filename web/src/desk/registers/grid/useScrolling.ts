/** What of the grid is in view: which rows are read, and that the active cell is seen. */
import { useEffect, useLayoutEffect, useSyncExternalStore } from "react";

import { reveal, useFrame } from "../../views/frame";
import { NUMBER_WIDTH } from "../../views/layout";
import type { PlacedColumn } from "../columns";
import { type Grid } from "./Grid";
import { HEAD } from "./GridState";

/** Rows read ahead of what can be seen. */
const AHEAD = 60;

export function useScrolling(grid: Grid, columns: readonly PlacedColumn[]) {
  useSyncExternalStore(grid.watch, grid.current);
  const { frame, top, from, to, page, onScroll, focus } = useFrame(grid.lines.length, grid.above);
  useEffect(() => {
    const timer = setTimeout(() => void grid.need(from - AHEAD, to + AHEAD), top ? 60 : 0);
    return () => clearTimeout(timer);
  }, [grid, from, to, top, grid.lines]);

  const activeKey = grid.active ? `${grid.active.row}/${grid.active.column}` : "";
  useLayoutEffect(() => {
    const { active } = grid;
    if (!frame.current || !activeKey || !active) return;
    const line = active.row === HEAD ? null : grid.lineOf(active.row);
    const one = columns.find(({ column }) => column.key === active.column);
    reveal(frame.current, line, one, columns, NUMBER_WIDTH);
  }, [frame, grid, columns, activeKey]);

  return { frame, from, to, page, onScroll, focus };
}
