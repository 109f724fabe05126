/** What of the grid is in view: which rows are drawn and read, and what stays where it is. */
import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  useSyncExternalStore,
  type UIEvent,
} from "react";

import { type Grid } from "./Grid";
import { HEAD } from "./GridState";
import { ROW_HEIGHT } from "./GridRow";
import { NUMBER_WIDTH } from "../../views/layout";
import type { PlacedColumn } from "../columns";

const HEAD_HEIGHT = 48;

/** Rows drawn above and below what can be seen. */
const BEYOND = 8;

/** Rows read ahead of what can be seen. */
const AHEAD = 60;

/** Bring the active cell into view, beside the columns that stay. */
function reveal(frame: HTMLDivElement, grid: Grid, columns: readonly PlacedColumn[]): void {
  const { active } = grid;
  if (!active) return;
  if (active.row !== HEAD) {
    const top = grid.lineOf(active.row) * ROW_HEIGHT;
    const seen = frame.clientHeight - HEAD_HEIGHT;
    if (top < frame.scrollTop) frame.scrollTop = top;
    else if (top + ROW_HEIGHT > frame.scrollTop + seen) frame.scrollTop = top + ROW_HEIGHT - seen;
  }
  const one = columns.find(({ column }) => column.key === active.column);
  if (!one || one.frozen) return;
  const kept = columns.filter(({ frozen }) => frozen).reduce((sum, { width }) => sum + width, 0);
  const way = getComputedStyle(frame).direction === "rtl" ? -1 : 1;
  const left = one.from - NUMBER_WIDTH - kept;
  const right = one.from + one.width - frame.clientWidth;
  const now = frame.scrollLeft * way;
  if (now > left) frame.scrollLeft = left * way;
  else if (now < right) frame.scrollLeft = right * way;
}

export function useScrolling(grid: Grid, columns: readonly PlacedColumn[]) {
  const version = useSyncExternalStore(grid.watch, grid.current);
  const frame = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(600);
  useLayoutEffect(() => {
    const one = frame.current;
    if (!one) return undefined;
    const seen = new ResizeObserver(() => setHeight(one.clientHeight));
    seen.observe(one);
    return () => seen.disconnect();
  }, []);

  const seen = height - HEAD_HEIGHT;
  const from = Math.max(0, Math.floor(top / ROW_HEIGHT) - BEYOND);
  const to = Math.min(grid.lines.length, Math.ceil((top + seen) / ROW_HEIGHT) + BEYOND);
  useEffect(() => {
    const timer = setTimeout(() => void grid.need(from - AHEAD, to + AHEAD), top ? 60 : 0);
    return () => clearTimeout(timer);
  }, [grid, from, to, top, grid.lines]);

  // What arrives above must not move what one reads.
  const above = useRef(0);
  useLayoutEffect(() => {
    const more = grid.above - above.current;
    above.current = grid.above;
    const one = frame.current;
    if (more <= 0 || !one) return;
    if (one.scrollTop > 0 || one.contains(document.activeElement))
      one.scrollTop += more * ROW_HEIGHT;
  }, [grid, version]);

  const activeKey = grid.active ? `${grid.active.row}/${grid.active.column}` : "";
  useLayoutEffect(() => {
    if (frame.current && activeKey) reveal(frame.current, grid, columns);
  }, [grid, columns, activeKey]);

  return {
    frame,
    from,
    to,
    page: Math.max(1, Math.floor(seen / ROW_HEIGHT) - 1),
    onScroll: useCallback((event: UIEvent) => setTop(event.currentTarget.scrollTop), []),
    focus: useCallback(() => frame.current?.focus({ preventScroll: true }), []),
  };
}
