/** The head of a column: its name and type, and what can be done with it. */
import { Button } from "react-aria-components/Button";
import { MenuTrigger } from "react-aria-components/Menu";
import { useRef, type PointerEvent } from "react";
import styled from "styled-components";

import { Deed, Deeds } from "../../ui/Deeds";
import type { Placed } from "./layout";
import type { TableView } from "./view";

const Open = styled(Button)`
  background: none;
  border: 0;
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: inherit;
  width: 100%;
  cursor: pointer;
  outline: none;
  span {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

const Edge = styled.span`
  position: absolute;
  inset-inline-end: 0;
  top: 0;
  bottom: 0;
  width: 7px;
  cursor: col-resize;
  touch-action: none;
`;

export interface HeadDeeds {
  sort: (key: string, descending: boolean | null) => void;
  filter: (key: string) => void;
  group: (key: string | null) => void;
  freeze: (count: number) => void;
  widen: (key: string, width: number) => void;
  move: (key: string, by: -1 | 1) => void;
  putAway: (key: string) => void;
  /** Change the columns themselves; null where one may not. */
  change?: ((key: string) => void) | null;
}

interface HeadCellProps {
  placed: Placed;
  at: number;
  view: TableView;
  deeds: HeadDeeds;
  isActive: boolean;
  isOpen: boolean;
  onOpen: (open: boolean) => void;
}

const STEP = 30;

interface Choice {
  id: string;
  says: string;
  run: () => void;
}

const COUNTED = new Set(["pick_many", "rank", "file", "roster"]);

function sorts(type: string | undefined): readonly [string, string] {
  if (type === "number" || type === "entry" || type === "computed" || type === "scale")
    return ["smallest first", "largest first"];
  if (type === "date" || type === "time" || type === "date_time")
    return ["earliest first", "latest first"];
  if (type === "pick_one" || type === "yes_no") return ["first option first", "last option first"];
  if (type && COUNTED.has(type)) return ["fewest first", "most first"];
  return ["A to Z", "Z to A"];
}

function choices({ placed, at, view, deeds }: HeadCellProps): Choice[] {
  const { key, type, shut } = placed.column;
  const sort = view.sort?.find(({ column }) => column === key);
  const grouped = view.group === key;
  const [up, down] = sorts(type);
  const frozen = view.frozen ?? 0;
  const { change } = deeds;
  const asked = [
    { id: "up", says: `Sort ${up}`, run: () => deeds.sort(key, false) },
    { id: "down", says: `Sort ${down}`, run: () => deeds.sort(key, true) },
    ...(sort
      ? [{ id: "unsort", says: "Do not sort by this", run: () => deeds.sort(key, null) }]
      : []),
    { id: "filter", says: "Filter by this…", run: () => deeds.filter(key) },
    {
      id: "group",
      says: grouped ? "Stop grouping" : "Group by this",
      run: () => deeds.group(grouped ? null : key),
    },
  ];
  return [
    ...(shut ? [] : asked),
    {
      id: "freeze",
      says: frozen === at + 1 ? "Let all columns scroll" : "Keep in view up to here",
      run: () => deeds.freeze(frozen === at + 1 ? 0 : at + 1),
    },
    { id: "wider", says: "Wider", run: () => deeds.widen(key, placed.width + STEP) },
    { id: "narrower", says: "Narrower", run: () => deeds.widen(key, placed.width - STEP) },
    { id: "left", says: "Move towards the start", run: () => deeds.move(key, -1) },
    { id: "right", says: "Move towards the end", run: () => deeds.move(key, 1) },
    { id: "away", says: "Put away", run: () => deeds.putAway(key) },
    ...(change ? [{ id: "change", says: "Change this column…", run: () => change(key) }] : []),
  ];
}

/** Drag the edge of a column. */
function useEdge({ placed, deeds }: HeadCellProps) {
  const from = useRef<{ x: number; width: number; way: number } | null>(null);
  return {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      const way = getComputedStyle(event.currentTarget).direction === "rtl" ? -1 : 1;
      from.current = { x: event.clientX, width: placed.width, way };
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      const begun = from.current;
      if (begun)
        deeds.widen(placed.column.key, begun.width + begun.way * (event.clientX - begun.x));
    },
    onPointerUp: () => {
      from.current = null;
    },
  };
}

export const headId = (column: string): string => `head-${column}`;

export function HeadCell(props: HeadCellProps) {
  const { placed, at, view, isActive, isOpen, onOpen } = props;
  const { column, width, from, frozen } = placed;
  const sort = view.sort?.find((one) => one.column === column.key);
  const offered = choices(props);
  return (
    <div
      id={headId(column.key)}
      role="columnheader"
      aria-colindex={at + 2}
      aria-sort={sort ? (sort.descending ? "descending" : "ascending") : undefined}
      data-frozen={frozen || undefined}
      data-active={isActive || undefined}
      data-number={column.type === "number" || column.type === "scale" || undefined}
      style={{ width, ...(frozen ? { insetInlineStart: from } : {}) }}
    >
      <MenuTrigger isOpen={isOpen} onOpenChange={onOpen}>
        <Open excludeFromTabOrder>
          <span>
            {column.label}
            {sort ? <i aria-hidden> {sort.descending ? "↓" : "↑"}</i> : null}
          </span>
          <small>{column.note}</small>
        </Open>
        <Deeds
          aria-label={column.label}
          onAction={(id) => offered.find((one) => one.id === id)?.run()}
        >
          {(column.told ?? []).map((said) => (
            <Deed key={said} id={said} isDisabled>
              {said}
            </Deed>
          ))}
          {offered.map(({ id, says }) => (
            <Deed key={id} id={id}>
              {says}
            </Deed>
          ))}
        </Deeds>
      </MenuTrigger>
      <Edge {...useEdge(props)} />
    </div>
  );
}
