/** How columns stand in a table, by the view. */
import type { Column, Laid, TableView } from "./view";

export interface Placed<C extends Column = Column> {
  column: C;
  width: number;
  /** Pixels from the start of the row. */
  from: number;
  frozen: boolean;
}

/** The width of the first column, which has the number of the row. */
export const NUMBER_WIDTH = 64;

const WIDTHS: Readonly<Record<string, number>> = {
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
  file: 110,
  scale: 104,
  roster: 240,
  grid: 240,
};

const widthOf = (column: Column): number => column.width ?? WIDTHS[column.type ?? "text"] ?? 150;

/** Every column as it is laid out: those of the view first, then the others as they stand. */
export function laidOut(columns: readonly Column[], view: TableView): Required<Laid>[] {
  const known = new Map(columns.map((one) => [one.key, one]));
  const laid = (view.columns ?? [])
    .filter(({ column }) => known.has(column))
    .map(({ column, width = 160, away = false }) => ({ column, width, away }));
  const named = new Set(laid.map(({ column }) => column));
  const others = columns
    .filter(({ key }) => !named.has(key))
    .map((one) => ({ column: one.key, width: widthOf(one), away: one.away ?? false }));
  return [...laid, ...others];
}

/** The columns that are shown, from the start on. */
export function placed<C extends Column>(
  columns: readonly C[],
  view: TableView,
  numberWidth = NUMBER_WIDTH,
): Placed<C>[] {
  const known = new Map(columns.map((one) => [one.key, one]));
  let from = numberWidth;
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
  view: TableView,
  key: string,
  width: number,
): TableView {
  const bounded = Math.round(Math.min(WIDEST, Math.max(NARROWEST, width)));
  const laid = laidOut(columns, view);
  return {
    ...view,
    columns: laid.map((one) => (one.column === key ? { ...one, width: bounded } : one)),
  };
}

export function withAway(
  columns: readonly Column[],
  view: TableView,
  key: string,
  away: boolean,
): TableView {
  const laid = laidOut(columns, view);
  return {
    ...view,
    columns: laid.map((one) => (one.column === key ? { ...one, away } : one)),
  };
}

/** The column moved by so many of those that are shown. */
export function moved(
  columns: readonly Column[],
  view: TableView,
  key: string,
  by: -1 | 1,
): TableView {
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
export function sortedBy(view: TableView, key: string, descending: boolean | null): TableView {
  const others = (view.sort ?? []).filter(({ column }) => column !== key);
  if (descending === null) return { ...view, sort: others };
  return { ...view, sort: [{ column: key, descending }, ...others].slice(0, 3) };
}
