/** Below the grid: what of a block did not fit, what is selected, and the keys. */
import { useSyncExternalStore } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import type { Column } from "./columns";
import type { Grid } from "./grid/Grid";

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
  padding: 8px 20px;
  color: var(--ink-2);
  font-size: 13.5px;
  > :last-child {
    margin-inline-start: auto;
  }
`;

const cells = (count: number) => (count === 1 ? "1 cell" : `${count.toLocaleString("en")} cells`);

/** What of a block was refused, before anything of it is written. */
function HeldBack({ grid, columns }: { grid: Grid; columns: readonly Column[] }) {
  const { held } = grid;
  if (!held) return null;
  const wide = held.added.reduce((sum, one) => sum + Object.keys(one).length, 0);
  const all = held.edits.length + wide;
  const label = (key: string) => columns.find((one) => one.key === key)?.label ?? key;
  const rest = all - held.refused.length;
  return (
    <Strip tone="wrong">
      <div role="alert">
        {cells(held.refused.length)} of {all.toLocaleString("en")} cannot be written, so nothing
        was:
        <ul>
          {held.refused.slice(0, 4).map((one) => (
            <li key={`${one.row}/${one.column}`}>
              {one.row < 0 ? `New row ${-one.row}` : `Row ${one.row}`}, {label(one.column)}:{" "}
              {one.why}
            </li>
          ))}
          {held.refused.length > 4 ? <li>and {held.refused.length - 4} more</li> : null}
        </ul>
        {rest > 0 ? (
          <Button weight="main" onPress={() => grid.takeHeld()}>
            Write the other {rest.toLocaleString("en")}
          </Button>
        ) : null}{" "}
        <Button onPress={() => grid.leaveHeld()}>Write none</Button>
      </div>
    </Strip>
  );
}

interface FootProps {
  grid: Grid;
  columns: readonly Column[];
  total: number;
  more: boolean;
  told: string;
  mayWrite: boolean;
  onTold: (told: string) => void;
}

export function Foot({ grid, columns, total, more, told, mayWrite, onTold }: FootProps) {
  useSyncExternalStore(grid.watch, grid.current);
  const { rows } = grid.selection();
  const trouble = told || grid.trouble;
  const refused = grid.refusals;
  return (
    <>
      <HeldBack grid={grid} columns={columns} />
      {trouble ? (
        <Strip tone="wrong">
          <span role="alert">{trouble}</span>{" "}
          {told ? (
            <Button weight="word" onPress={() => onTold("")}>
              Dismiss
            </Button>
          ) : null}
        </Strip>
      ) : null}
      <Line>
        {refused && !grid.held ? (
          <span>
            {cells(refused)} not saved{" "}
            <Button weight="word" onPress={() => grid.dismissAll()}>
              Let go
            </Button>
          </span>
        ) : null}
        {mayWrite && rows.length ? (
          <Button weight="word" onPress={() => void grid.remove(rows)}>
            Delete {rows.length === 1 ? `row ${rows[0] ?? ""}` : `${rows.length} rows`}
          </Button>
        ) : null}
        {mayWrite && grid.history.canBack ? (
          <Button weight="word" onPress={() => void grid.undo()}>
            Undo
          </Button>
        ) : null}
        {mayWrite && grid.history.canForth ? (
          <Button weight="word" onPress={() => void grid.redo()}>
            Redo
          </Button>
        ) : null}
        {mayWrite ? (
          <>
            <span>Enter edits</span>
            <span>Ctrl V pastes a block, cell by cell</span>
            <span>Ctrl D fills down</span>
            <span>Ctrl Z takes back</span>
          </>
        ) : (
          <span>You may read this register, but not change it.</span>
        )}
        <span>Alt Enter opens the row</span>
        <Quiet>
          {grid.count.toLocaleString("en")} of {Math.max(total, grid.count).toLocaleString("en")}{" "}
          rows{more ? ". Filter it to see the others." : ""}
        </Quiet>
      </Line>
    </>
  );
}
