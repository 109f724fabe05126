/** The table of entries; only the rows in view are drawn. */
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import styled from "styled-components";

import { useLatest } from "../../ui/latest";
import { ROW_HEIGHT, reveal, useFrame } from "../views/frame";
import { GridFrame, Head } from "../views/GridFrame";
import { HeadCell, headId, type HeadDeeds } from "../views/HeadCell";
import type { TableView } from "../views/view";
import type { PlacedColumn } from "./columns";
import type { Entry } from "./data";
import { EntryLine, NUMBER_WIDTH, cellId, type Words } from "./EntryLine";
import type { Line } from "./lines";
import type { Selection } from "./selection";

const HEAD_HEIGHT = 48;

const Frame = styled(GridFrame)`
  [data-chosen] {
    background: var(--flax-soft);
  }
`;

interface EntryGridProps {
  lines: readonly Line[];
  columns: readonly PlacedColumn[];
  view: TableView;
  deeds: HeadDeeds;
  words: Words;
  current: string | undefined;
  selection: Selection;
  fresh: ReadonlySet<string>;
  /** How many rows were put in above what was there. */
  above: number;
  onCurrent: (entry: Entry) => void;
  /** The end is near. */
  onEnd: () => void;
  /** Into the reading pane. */
  onRead: () => void;
}

/** The row and column that the keyboard is at; row -1 is the head. */
interface Active {
  row: number;
  column: number;
}

const stepped = (lines: readonly Line[], from: number, by: number): number => {
  const way = by < 0 ? -1 : 1;
  let to = Math.min(lines.length - 1, Math.max(0, from + by));
  while (lines[to] && !lines[to]?.entry) to += way;
  return lines[to] ? to : from;
};

export function EntryGrid(props: EntryGridProps) {
  const { lines, columns, view, deeds, words, current, selection, fresh, above } = props;
  const { onCurrent, onEnd, onRead } = props;
  const { frame, from, to, onScroll, page, seen } = useFrame(lines.length, above);
  useEffect(() => {
    if (to >= lines.length - 30) onEnd();
  }, [to, lines.length, onEnd]);
  const [active, setActive] = useState<Active>({ row: 0, column: 0 });
  const [head, setHead] = useState("");
  const anchor = useRef<number | null>(null);
  const at = lines.findIndex(({ entry }) => entry?.id === current);
  const row = active.row < 0 ? -1 : at >= 0 ? at : active.row;
  const width = columns.reduce((sum, one) => sum + one.width, NUMBER_WIDTH);
  // So high that what was put in above can be scrolled away from what one reads.
  const room = Math.max(lines.length * ROW_HEIGHT, above ? seen + above * ROW_HEIGHT : 0);
  const spot = `${row}/${active.column}`;
  useLayoutEffect(() => {
    if (frame.current?.contains(document.activeElement))
      reveal(frame.current, row < 0 ? null : row, columns[active.column], columns, NUMBER_WIDTH);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only where one moves
  }, [spot]);

  const go = (next: number, extend: boolean) => {
    const entry = lines[next]?.entry;
    if (!entry) return;
    if (extend) {
      anchor.current ??= row;
      const [low, high] = [Math.min(anchor.current, next), Math.max(anchor.current, next)];
      selection.choose(lines.slice(low, high + 1).flatMap((one) => one.entry ?? []));
    } else anchor.current = null;
    setActive((before) => ({ ...before, row: next }));
    onCurrent(entry);
  };
  const open = (entry: Entry, index: number, extend: boolean) => {
    if (extend) go(index, true);
    else {
      anchor.current = null;
      setActive((before) => ({ ...before, row: index }));
      onCurrent(entry);
    }
  };
  const onOpen = useLatest(open);
  const across = (by: number) =>
    setActive((before) => ({
      ...before,
      column: Math.min(columns.length - 1, Math.max(0, before.column + by)),
    }));
  const moves: Record<string, (extend: boolean) => void> = {
    ArrowDown: (extend) =>
      active.row < 0 ? setActive({ ...active, row: at }) : go(stepped(lines, row, 1), extend),
    ArrowUp: (extend) => {
      const next = stepped(lines, row, -1);
      if (row >= 0 && next === row) setActive({ ...active, row: -1 });
      else if (row >= 0) go(next, extend);
    },
    PageDown: (extend) => go(stepped(lines, row, page), extend),
    PageUp: (extend) => go(stepped(lines, row, -page), extend),
    Home: () => go(stepped(lines, 0, 0), false),
    End: () => go(stepped(lines, lines.length - 1, -0.1), false),
    ArrowRight: () => across(1),
    ArrowLeft: () => across(-1),
    Enter: () => (active.row < 0 ? setHead(columns[active.column]?.column.key ?? "") : onRead()),
    " ": () => {
      const entry = lines[row]?.entry;
      if (active.row >= 0 && entry) selection.toggle(entry);
    },
    Escape: () => selection.clear(),
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== frame.current || event.altKey) return;
    if ((event.ctrlKey || event.metaKey) && event.key === "a") {
      event.preventDefault();
      selection.chooseAll();
      return;
    }
    const move = event.ctrlKey || event.metaKey ? undefined : moves[event.key];
    if (!move) return;
    event.preventDefault();
    move(event.shiftKey);
  };
  const column = columns[active.column]?.column.key ?? "";
  const here = row < 0 ? headId(column) : cellId(lines[row]?.entry?.id ?? "", column);
  const drawn = useMemo(() => lines.slice(from, to), [lines, from, to]);
  return (
    <Frame
      ref={frame}
      role="grid"
      aria-label="Entries"
      aria-rowcount={lines.length + 1}
      aria-colcount={columns.length + 1}
      aria-multiselectable
      aria-activedescendant={here}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onScroll={onScroll}
    >
      <Head role="row" aria-rowindex={1} style={{ width }}>
        <div
          role="columnheader"
          aria-colindex={1}
          data-frozen
          style={{ width: NUMBER_WIDTH, insetInlineStart: 0 }}
        >
          <input
            type="checkbox"
            tabIndex={-1}
            aria-label="Choose all entries"
            checked={selection.count > 0 && selection.isAll}
            onChange={() => (selection.isAll ? selection.clear() : selection.chooseAll())}
          />{" "}
          No.
        </div>
        {columns.map((placed, index) => (
          <HeadCell
            key={placed.column.key}
            placed={placed}
            at={index}
            view={view}
            deeds={deeds}
            isActive={row < 0 && index === active.column}
            isOpen={head === placed.column.key}
            onOpen={(open) => setHead(open ? placed.column.key : "")}
          />
        ))}
      </Head>
      <div role="presentation" style={{ height: room, width }}>
        <div role="presentation" style={{ position: "absolute", top: HEAD_HEIGHT, width }}>
          {drawn.map((line, index) => (
            <EntryLine
              key={line.entry?.id ?? `group ${from + index}`}
              line={line}
              at={from + index}
              columns={columns}
              width={width}
              words={words}
              isCurrent={line.entry !== undefined && line.entry.id === current}
              active={from + index === row ? column : ""}
              isChosen={line.entry !== undefined && selection.has(line.entry)}
              isFresh={line.entry !== undefined && fresh.has(line.entry.id)}
              onOpen={onOpen}
              onToggle={selection.toggle}
            />
          ))}
        </div>
      </div>
    </Frame>
  );
}
