/** How tables of rows and of entries are looked at, as far as they are alike. */
import type { Schema } from "../../client/client";

export type TableView = Schema<"TableView">;
export type Laid = Schema<"Laid">;
export type KeptView = Schema<"ViewOut">;

/** A column as it can be laid out, sorted and grouped; `note` stands under its name. */
export interface Column {
  key: string;
  label: string;
  type?: string;
  note?: string;
  /** Pixels, where a view does not say. */
  width?: number;
  /** Put away where a view does not say. */
  away?: boolean;
  /** What is to be known of it, a line each, above what can be done. */
  told?: readonly string[];
  /** Why it can be neither sorted nor grouped by. */
  shut?: string;
}

/** What decides which rows there are and in what order; how columns are laid out does not. */
export function asked({ search, filter, sort, group }: TableView): TableView {
  return {
    ...(search ? { search } : {}),
    ...(filter ? { filter } : {}),
    ...(sort?.length ? { sort } : {}),
    ...(group ? { group } : {}),
  };
}

/** Entries that were chosen in the table, for another place, and how many they are. */
export interface ChosenEntries {
  entries: Schema<"ChoiceIn">;
  count: number;
}
