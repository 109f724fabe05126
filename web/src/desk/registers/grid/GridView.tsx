/** A register as a grid that is worked in by keyboard; only the rows in view are drawn. */
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
  type ClipboardEvent,
  type MouseEvent,
} from "react";

import { copied, paste, pressed, clear, type Told } from "./actions";
import { CellEditor } from "./CellEditor";
import { cellWords, type Column, type People } from "../columns";
import type { TableView } from "../../views/view";
import { type Grid } from "./Grid";
import { HEAD } from "./GridState";
import { GridFrame, Head } from "../../views/GridFrame";
import { ROW_HEIGHT } from "../../views/frame";
import { cellId, GridLine } from "./GridRow";
import { HeadCell, headId, type HeadDeeds } from "../../views/HeadCell";
import { NUMBER_WIDTH } from "../../views/layout";
import type { PlacedColumn } from "../columns";
import { isHead } from "./lines";
import { useEditing } from "./useEditing";
import { useScrolling } from "./useScrolling";

interface GridViewProps {
  name: string;
  grid: Grid;
  columns: readonly PlacedColumn[];
  known: readonly Column[];
  view: TableView;
  people: People;
  deeds: HeadDeeds;
  mayWrite: boolean;
  open: number | undefined;
  others: ReadonlyMap<string, string>;
  onOpenRow: (row: number) => void;
  onTold: (told: Told) => void;
}

const NONE: ReadonlySet<string> = new Set();
const NO_ROWS: readonly number[] = [];

let counted = 0;
const counts = new WeakMap<object, number>();

/** A number for each object, to tell whether it is the same one. */
function numberOf(one: object | undefined): number {
  if (!one) return 0;
  const known = counts.get(one);
  if (known) return known;
  counted += 1;
  counts.set(one, counted);
  return counted;
}

function stateOf(grid: Grid, line: number, columns: readonly PlacedColumn[]): string {
  const given = columns.map(({ column }) => numberOf(grid.at(line, column.key))).join();
  const active = grid.active?.row === line ? grid.active.column : "";
  return `${numberOf(grid.row(line))} ${active} ${given} ${String(grid.fresh.has(line))}`;
}

/** The rows and columns of a selection of several cells; the same sets while it is the same. */
function useSelected(grid: Grid) {
  const { rows, columns } = grid.selection();
  const several = grid.anchor ? rows : NO_ROWS;
  const first = several[0] ?? 0;
  const last = several[several.length - 1] ?? 0;
  const named = columns.join();
  return useMemo(
    () => ({ rows: new Set(several), chosen: new Set(named ? named.split(",") : []) }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- its ends say which rows they are
    [first, last, several.length, named],
  );
}

export function GridView(props: GridViewProps) {
  const { name, grid, columns, known, view, people, deeds, mayWrite, open, others } = props;
  const { onOpenRow, onTold } = props;
  useSyncExternalStore(grid.watch, grid.current);
  const { frame, from, to, page, onScroll, focus } = useScrolling(grid, columns);
  const [head, setHead] = useState("");
  const { editing, begin, done, cancel, type } = useEditing(grid, known, people);

  useEffect(() => {
    grid.show(columns.map(({ column }) => column.key));
  }, [grid, columns]);

  const ended = useRef(false);
  useEffect(() => {
    if (ended.current && !editing) focus();
    ended.current = Boolean(editing);
  }, [editing, focus]);

  const tell = (doing: Promise<Told>) => void doing.then(onTold);
  const hands = {
    grid,
    page,
    mayWrite,
    begin,
    openHead: setHead,
    openRow: onOpenRow,
    tell,
  };
  const { rows, chosen } = useSelected(grid);
  const width = columns.reduce((sum, one) => sum + one.width, NUMBER_WIDTH);
  const grouped = columns.find(({ column }) => column.key === view.group);
  const now = editing ? cellWords(grid.cell(editing.row, editing.column), undefined) : "";
  const column = known.find(({ key }) => key === editing?.column);
  const editor =
    editing && column ? (
      <CellEditor
        key={`${editing.row}/${editing.column}`}
        column={column}
        people={people}
        text={editing.text}
        told={
          now !== cellWords(editing.before, undefined)
            ? `Somebody else wrote “${cellWords(grid.cell(editing.row, editing.column), column, people) || "nothing"}” here meanwhile.`
            : ""
        }
        onText={type}
        onDone={done}
        onCancel={cancel}
      />
    ) : null;

  const clicked = (event: MouseEvent<HTMLDivElement>) => {
    if (!(event.target instanceof Element) || event.target.closest(".editor")) return;
    const cell = event.target.closest<HTMLElement>("[data-column]");
    const row = Number(event.target.closest<HTMLElement>("[data-row]")?.dataset["row"] ?? 0);
    if (!row) return;
    if (cell?.dataset["column"])
      grid.go(
        { row, column: cell.dataset["column"] },
        event.shiftKey || event.type === "mousemove",
      );
    else if (event.type === "mousedown") onOpenRow(row);
  };
  const clipped = (event: ClipboardEvent) => {
    if (editing || !grid.active || grid.active.row === HEAD) return;
    event.preventDefault();
    if (event.type === "paste") {
      if (mayWrite) tell(paste(grid, event.clipboardData.getData("text/plain")));
      return;
    }
    event.clipboardData.setData("text/plain", copied(grid, known, people));
    if (event.type === "cut" && mayWrite) tell(clear(grid));
  };
  return (
    <GridFrame
      ref={frame}
      role="grid"
      aria-label={name}
      aria-rowcount={grid.lines.length + 1}
      aria-colcount={columns.length + 1}
      aria-multiselectable
      aria-readonly={!mayWrite}
      aria-activedescendant={
        grid.active
          ? grid.active.row === HEAD
            ? headId(grid.active.column)
            : cellId(grid.active.row, grid.active.column)
          : undefined
      }
      tabIndex={0}
      onScroll={onScroll}
      onFocus={() => {
        const first = grid.lines.find((line) => !isHead(line));
        if (!grid.active && first && grid.columns[0])
          grid.go({ row: first, column: grid.columns[0] });
      }}
      onKeyDown={(event) => {
        if (!editing && event.target === event.currentTarget && pressed(event, hands))
          event.preventDefault();
      }}
      onMouseDown={clicked}
      onMouseMove={(event) => {
        if (event.buttons === 1) clicked(event);
      }}
      onDoubleClick={() => {
        if (mayWrite) begin(null);
      }}
      onCopy={clipped}
      onCut={clipped}
      onPaste={clipped}
    >
      <Head role="row" aria-rowindex={1} style={{ width }}>
        <div
          role="columnheader"
          aria-colindex={1}
          data-frozen
          style={{ width: NUMBER_WIDTH, insetInlineStart: 0 }}
        >
          Row
        </div>
        {columns.map((one, at) => (
          <HeadCell
            key={one.column.key}
            placed={one}
            at={at}
            view={view}
            deeds={deeds}
            isActive={grid.active?.row === HEAD && grid.active.column === one.column.key}
            isOpen={head === one.column.key}
            onOpen={(isOpen) => {
              setHead(isOpen ? one.column.key : "");
              if (!isOpen) setTimeout(focus);
            }}
          />
        ))}
      </Head>
      <div
        role="presentation"
        style={{ height: grid.lines.length * ROW_HEIGHT, width, position: "relative" }}
      >
        {grid.lines.slice(from, to).map((line, number) => (
          <GridLine
            key={line}
            grid={grid}
            line={line}
            at={from + number}
            columns={columns}
            width={width}
            people={people}
            state={stateOf(grid, line, columns)}
            editor={editing?.row === line ? editor : null}
            others={others}
            open={open === line}
            selected={rows.has(line) ? chosen : NONE}
            grouped={grouped}
          />
        ))}
      </div>
    </GridFrame>
  );
}
