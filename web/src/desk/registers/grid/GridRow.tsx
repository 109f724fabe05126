/** One row of the grid, or the head of a group. */
import { memo, type ReactNode } from "react";

import { cellWords, type People } from "../columns";
import type { Grid } from "./Grid";
import { spotKey } from "./GridState";
import { isHead, groupAt, type Line } from "./lines";
import { ROW_HEIGHT } from "../../views/frame";
import { NUMBER_WIDTH } from "../../views/layout";
import type { PlacedColumn } from "../columns";

export const cellId = (row: number, column: string): string => `cell-${row}-${column}`;

interface LineProps {
  grid: Grid;
  line: Line;
  at: number;
  columns: readonly PlacedColumn[];
  width: number;
  people: People;
  /** Changes whenever something of this row does. */
  state: string;
  editor: ReactNode;
  others: ReadonlyMap<string, string>;
  open: boolean;
  selected: ReadonlySet<string>;
  grouped: PlacedColumn | undefined;
}

function Cells({ grid, line, columns, people, editor, others, selected }: LineProps) {
  const row = grid.row(line);
  return columns.map(({ column, width, from, frozen }, at) => {
    const isActive = grid.active?.row === line && grid.active.column === column.key;
    const given = grid.at(line, column.key);
    const other = others.get(spotKey(line, column.key));
    const words = cellWords(given ? given.typed : row?.values[column.key], column, people);
    return (
      <div
        key={column.key}
        id={cellId(line, column.key)}
        role="gridcell"
        aria-colindex={at + 2}
        aria-selected={selected.has(column.key) || isActive}
        aria-invalid={given?.why ? true : undefined}
        aria-describedby={given?.why && isActive ? "cell-why" : undefined}
        data-column={column.key}
        data-active={isActive || undefined}
        data-selected={selected.has(column.key) || undefined}
        data-waits={(given && !given.why) || undefined}
        data-refused={given?.why ? true : undefined}
        data-other={other ? true : undefined}
        data-number={column.type === "number" || undefined}
        data-frozen={frozen || undefined}
        style={{ width, ...(frozen ? { insetInlineStart: from } : {}) }}
      >
        {isActive && editor ? editor : <span className="text">{row || given ? words : "…"}</span>}
        {other ? <span className="who">{other}</span> : null}
        {isActive && given?.why && !editor ? (
          <span className="why" id="cell-why">
            {given.why}
          </span>
        ) : null}
      </div>
    );
  });
}

export const GridLine = memo(function GridLine(props: LineProps) {
  const { grid, line, at, width, open, grouped, people } = props;
  const style = { transform: `translateY(${at * ROW_HEIGHT}px)`, width };
  if (isHead(line)) {
    const group = groupAt(grid.groups, line);
    const words = cellWords(group?.cell, grouped?.column, people);
    return (
      <div role="row" aria-rowindex={at + 2} className="group" style={style}>
        <div role="gridcell" aria-colindex={1} className="grouphead">
          <b>{words || `No ${grouped?.column.label ?? "value"}`}</b>{" "}
          {group?.rows === 1 ? "1 row" : `${group?.rows ?? 0} rows`}
        </div>
      </div>
    );
  }
  return (
    <div
      role="row"
      aria-rowindex={at + 2}
      aria-selected={open}
      data-row={line}
      data-open={open || undefined}
      data-fresh={grid.fresh.has(line) || undefined}
      style={style}
    >
      <div
        role="rowheader"
        aria-colindex={1}
        data-frozen
        className="number"
        style={{ width: NUMBER_WIDTH }}
      >
        {line}
      </div>
      <Cells {...props} />
    </div>
  );
}, same);

/** Whether a row reads the same as before. */
function same(before: LineProps, now: LineProps): boolean {
  return (
    before.state === now.state &&
    before.line === now.line &&
    before.at === now.at &&
    before.columns === now.columns &&
    before.people === now.people &&
    before.open === now.open &&
    before.selected === now.selected &&
    before.others === now.others &&
    before.editor === now.editor &&
    before.grouped === now.grouped
  );
}
