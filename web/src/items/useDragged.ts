/** Dragging a row of a list to another place with a pointer; keys have buttons for that. */
import { useRef, useState, type CSSProperties, type RefObject } from "react";
import type { MoveEvents } from "react-aria/useMove";

export interface Drag {
  from: number;
  /** Pixels that the row has been moved down. */
  by: number;
  /** Pixels from each row to the next, as they stood when it began. */
  steps: readonly number[];
}

/** The place that a row of `from` comes to when it is moved down by so many pixels: past another row
 * once it covers half of it. */
export function placeAfter({ from, by, steps }: Drag): number {
  const direction = by < 0 ? -1 : 1;
  let place = from;
  let left = Math.abs(by);
  for (;;) {
    const step = steps[place + direction];
    if (step === undefined || left <= step / 2) return place;
    left -= step;
    place += direction;
  }
}

function stepsOf(rows: readonly HTMLElement[]): number[] {
  return rows.map((row) => {
    const { marginTop } = getComputedStyle(row);
    return row.offsetHeight + Number.parseFloat(marginTop);
  });
}

/** Where the row at `place` is drawn meanwhile. */
function styleOf(drag: Drag | null, place: number): CSSProperties {
  if (!drag) return {};
  const { from, by, steps } = drag;
  if (place === from) return { transform: `translateY(${by}px)`, zIndex: 1 };
  const to = placeAfter(drag);
  const step = steps[from] ?? 0;
  if (from < place && place <= to) return { transform: `translateY(${-step}px)` };
  if (to <= place && place < from) return { transform: `translateY(${step}px)` };
  return {};
}

/** What the rows of `list` need, and what their handles do; `onMoved` is called once a row was let go
 * at another place. */
export function useDragged(
  list: RefObject<HTMLElement | null>,
  onMoved: (from: number, to: number) => void,
) {
  const [shown, setShown] = useState<Drag | null>(null);
  const now = useRef<Drag | null>(null);
  const put = (drag: Drag | null) => {
    now.current = drag;
    setShown(drag);
  };
  const moves = (from: number): MoveEvents => ({
    onMoveStart: () => {
      const rows = [...(list.current?.children ?? [])] as HTMLElement[];
      put({ from, by: 0, steps: stepsOf(rows) });
    },
    onMove: ({ deltaY }) => {
      if (now.current) put({ ...now.current, by: now.current.by + deltaY });
    },
    onMoveEnd: () => {
      const to = now.current && placeAfter(now.current);
      put(null);
      if (to !== null && to !== from) onMoved(from, to);
    },
  });
  const row = (place: number) => ({
    style: styleOf(shown, place),
    "data-dragged": shown?.from === place || undefined,
  });
  return { row, moves };
}
