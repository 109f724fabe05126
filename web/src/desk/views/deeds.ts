/** What the head of a column does to a view. */
import type { HeadDeeds } from "./HeadCell";
import { moved, sortedBy, withAway, withWidth } from "./layout";
import type { Column, TableView } from "./view";

export function viewDeeds(
  columns: readonly Column[],
  view: TableView,
  setView: (view: TableView) => void,
  filter: (key: string) => void,
): HeadDeeds {
  return {
    sort: (key, descending) => setView(sortedBy(view, key, descending)),
    filter,
    group: (group) => setView({ ...view, group }),
    freeze: (frozen) => setView({ ...view, frozen }),
    widen: (key, width) => setView(withWidth(columns, view, key, width)),
    move: (key, by) => setView(moved(columns, view, key, by)),
    putAway: (key) => setView(withAway(columns, view, key, true)),
  };
}
