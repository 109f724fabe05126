/** How the columns of a register stand in the grid, by the view. */
import type { Column } from "../columns";
import type { Laid, RowView } from "../data";

export interface Placed {
  column: Column;
  width: number;
  /** Pixels from the start of the row. */
  from: number;
  frozen: boolean;
}

/** The width of the first column, which has the number of the row. */
export const NUMBER_WIDTH = 64;

const WIDTHS: Partial<Record<NonNullable<Column["type"]>, number>> = {
  number: 104,
  entry: 104,
  date: 124,
  time: 90,
  date_time: 154,
  yes_no: 90,
  files: 110,
  computed: 110,
  long_text: 240,
  email: 210,
  web_address: 210,
  pick_many: 180,
};

const widthOf = (column: Column): number => WIDTHS[column.type ?? "text"] ?? 150;

/** Every column as it is laid out: those of the view first, then the others as they stand. */
export function laidOut(columns: readonly Column[], view: RowView): Required<Laid>[] {
  const known = new Map(columns.map((one) => [one.key, one]));
  const laid = (view.columns ?? [])
    .filter(({ column }) => known.has(column))
    .map(({ column, width = 160, away = false }) => ({ column, width, away }));
  const named = new Set(laid.map(({ column }) => column));
  const others = columns
    .filter(({ key }) => !named.has(key))
    .map((one) => ({ column: one.key, width: widthOf(one), away: false }));
  return [...laid, ...others];
}

/** The columns that are shown, from the start on. */
export function placed(columns: readonly Column[], view: RowView): Placed[] {
  const known = new Map(columns.map((one) => [one.key, one]));
  let from = NUMBER_WIDTH;
  const shown = laidOut(columns, view).filter(({ away }) => !away);
  return shown.flatMap(({ column: key, width }, at) => {
    const column = known.get(key);
    if (!column) return [];
    const one = { column, width, from, frozen: at < (view.frozen ?? 0) };
    from += width;
    return [one];
  });
}

const NARROWEST = 60;
const WIDEST = 900;

export function withWidth(
  columns: readonly Column[],
  view: RowView,
  key: string,
  width: number,
): RowView {
  const bounded = Math.round(Math.min(WIDEST, Math.max(NARROWEST, width)));
  const laid = laidOut(columns, view);
  return {
    ...view,
    columns: laid.map((one) => (one.column === key ? { ...one, width: bounded } : one)),
  };
}

export function withAway(
  columns: readonly Column[],
  view: RowView,
  key: string,
  away: boolean,
): RowView {
  const laid = laidOut(columns, view);
  return {
    ...view,
    columns: laid.map((one) => (one.column === key ? { ...one, away } : one)),
  };
}

/** The column moved by so many of those that are shown. */
export function moved(columns: readonly Column[], view: RowView, key: string, by: -1 | 1): RowView {
  const laid = laidOut(columns, view);
  const from = laid.findIndex(({ column }) => column === key);
  let to = from + by;
  while (laid[to]?.away) to += by;
  const one = laid[from];
  if (!one || to < 0 || to >= laid.length) return view;
  const rest = laid.filter(({ column }) => column !== key);
  return { ...view, columns: [...rest.slice(0, to), one, ...rest.slice(to)] };
}

/** Sorted by a column alone, or no more where `descending` is null. */
export function sortedBy(view: RowView, key: string, descending: boolean | null): RowView {
  const others = (view.sort ?? []).filter(({ column }) => column !== key);
  if (descending === null) return { ...view, sort: others };
  return { ...view, sort: [{ column: key, descending }, ...others].slice(0, 3) };
}
