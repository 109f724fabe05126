/** One row of the table, or the head of a group. */
import { memo, type MouseEvent, type ReactNode } from "react";

import { Unseen } from "../../ui/text";
import { entryNumber } from "../document";
import { ROW_HEIGHT } from "../views/frame";
import { Covered } from "./reading/Covered";
import type { PlacedColumn } from "./columns";
import type { Entry } from "./data";
import type { Line } from "./lines";

export const NUMBER_WIDTH = 92;

export const cellId = (entry: string, column: string): string => `cell-${entry}-${column}`;

/** What the cells of an entry read as, and how many entries a group has. */
export interface Words {
  cell: (entry: Entry, column: PlacedColumn["column"]) => ReactNode;
  group: (said: string) => string;
  covered: (entry: Entry, key: string) => boolean;
}

interface LineProps {
  line: Line;
  at: number;
  columns: readonly PlacedColumn[];
  width: number;
  words: Words;
  isCurrent: boolean;
  /** The column that the keyboard is at, in this row. */
  active: string;
  isChosen: boolean;
  isFresh: boolean;
  onOpen: (entry: Entry, at: number, extend: boolean) => void;
  onToggle: (entry: Entry) => void;
}

function Cell({
  entry,
  column,
  words,
}: {
  entry: Entry;
  column: PlacedColumn["column"];
  words: Words;
}) {
  if (!column.of.restricted) return <span className="text">{words.cell(entry, column)}</span>;
  if (!words.covered(entry, column.key)) return <span className="text">—</span>;
  return (
    <>
      <Covered aria-hidden="true" />
      <Unseen>Restricted</Unseen>
    </>
  );
}

const isNumber = (kind: string) => kind === "number" || kind === "scale" || undefined;

export const EntryLine = memo(function EntryLine(props: LineProps) {
  const { line, at, columns, width, words, isCurrent, active, isChosen, isFresh } = props;
  const style = { transform: `translateY(${at * ROW_HEIGHT}px)`, width };
  const { entry } = line;
  if (!entry) {
    return (
      <div role="row" aria-rowindex={at + 2} className="group" style={style}>
        <div role="gridcell" aria-colindex={1} className="grouphead">
          <b>{line.group || "Nothing said"}</b> {words.group(line.group ?? "")}
        </div>
      </div>
    );
  }
  const open = (event: MouseEvent) => props.onOpen(entry, at, event.shiftKey);
  return (
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/interactive-supports-focus -- the grid has the focus and its keys
    <div
      role="row"
      aria-rowindex={at + 2}
      aria-selected={isChosen}
      data-entry={entry.number}
      data-open={isCurrent || undefined}
      data-chosen={isChosen || undefined}
      data-fresh={isFresh || undefined}
      style={style}
      onClick={open}
    >
      <div
        role="rowheader"
        aria-colindex={1}
        data-frozen
        className="number"
        style={{ width: NUMBER_WIDTH }}
      >
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Choose entry ${entryNumber(entry.number)}`}
          checked={isChosen}
          onClick={(event) => event.stopPropagation()}
          onChange={() => props.onToggle(entry)}
        />{" "}
        {entryNumber(entry.number)}
      </div>
      {columns.map(({ column, width, from, frozen }, index) => (
        <div
          key={column.key}
          id={cellId(entry.id, column.key)}
          role="gridcell"
          aria-colindex={index + 2}
          data-column={column.key}
          data-active={active === column.key || undefined}
          data-number={isNumber(column.of.kind)}
          data-frozen={frozen || undefined}
          style={{ width, ...(frozen ? { insetInlineStart: from } : {}) }}
        >
          <Cell entry={entry} column={column} words={words} />
        </div>
      ))}
    </div>
  );
});
