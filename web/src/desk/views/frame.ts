/** What of a table is in view: which rows are drawn, and what stays where it is. */
import { useCallback, useLayoutEffect, useRef, useState, type UIEvent } from "react";

import type { Placed } from "./layout";

export const ROW_HEIGHT = 36;
const HEAD_HEIGHT = 48;

/** Rows drawn above and below what can be seen. */
const BEYOND = 8;

/** Bring a line, or the head where that is null, and a column into view, beside those that stay. */
export function reveal(
  frame: HTMLDivElement,
  line: number | null,
  one: Placed | undefined,
  columns: readonly Placed[],
  numberWidth: number,
): void {
  if (line !== null) {
    const top = line * ROW_HEIGHT;
    const seen = frame.clientHeight - HEAD_HEIGHT;
    if (top < frame.scrollTop) frame.scrollTop = top;
    else if (top + ROW_HEIGHT > frame.scrollTop + seen) frame.scrollTop = top + ROW_HEIGHT - seen;
  }
  if (!one || one.frozen) return;
  const kept = columns.filter(({ frozen }) => frozen).reduce((sum, { width }) => sum + width, 0);
  const way = getComputedStyle(frame).direction === "rtl" ? -1 : 1;
  const left = one.from - numberWidth - kept;
  const right = one.from + one.width - frame.clientWidth;
  const now = frame.scrollLeft * way;
  if (now > left) frame.scrollLeft = left * way;
  else if (now < right) frame.scrollLeft = right * way;
}

/** `count` lines, of which `above` were put in above those that were there before. */
export function useFrame(count: number, above: number) {
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

  // What arrives above must not move what one reads.
  const before = useRef(above);
  useLayoutEffect(() => {
    const more = above - before.current;
    before.current = above;
    const one = frame.current;
    if (more <= 0 || !one) return;
    if (one.scrollTop > 0 || one.contains(document.activeElement))
      one.scrollTop += more * ROW_HEIGHT;
  }, [above]);

  const seen = height - HEAD_HEIGHT;
  return {
    frame,
    top,
    seen,
    from: Math.max(0, Math.floor(top / ROW_HEIGHT) - BEYOND),
    to: Math.min(count, Math.ceil((top + seen) / ROW_HEIGHT) + BEYOND),
    page: Math.max(1, Math.floor(seen / ROW_HEIGHT) - 1),
    onScroll: useCallback((event: UIEvent) => setTop(event.currentTarget.scrollTop), []),
    focus: useCallback(() => frame.current?.focus({ preventScroll: true }), []),
  };
}
