/** Views that show what one column says alone: the entries of one status, or those that are late. */
import type { TableView } from "./view";

type Value = string | boolean;

/** What has to be said in a column to be shown, where that is all that is asked. */
export function shownAlone({ filter }: TableView, item: string): Value | undefined {
  return filter?.op === "is" && filter.item === item ? filter.value : undefined;
}

/** The view with only those; once more leads back to all. */
export function shownOnly(view: TableView, item: string, value: Value): TableView {
  const isShown = shownAlone(view, item) === value;
  return { ...view, filter: isShown ? null : { op: "is", item, value } };
}
