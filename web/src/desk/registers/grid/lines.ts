/** What stands under each other in the grid: rows by their id, and above each group its head. */
import type { Order } from "../data";
import type { Cell } from "../columns";

/** The head of a group is the number of the group, from -1 down. */
export type Line = number;

export interface Group {
  cell: Cell | null;
  rows: number;
}

export const isHead = (line: Line): boolean => line < 0;

export function groupAt(groups: readonly Group[], line: Line): Group | undefined {
  return groups[-line - 1];
}

export function linesOf({ ids, groups }: Pick<Order, "ids" | "groups">): Line[] {
  if (!groups.length) return [...ids];
  const found: Line[] = [];
  let from = 0;
  groups.forEach(({ rows }, number) => {
    found.push(-number - 1);
    for (let at = from; at < from + rows; at++) found.push(ids[at] ?? 0);
    from += rows;
  });
  return found;
}

/** The row that lies so many rows behind the line `from`; the last one on the way where there are
 * not so many. Heads of groups are passed over. */
export function stepped(lines: readonly Line[], from: number, by: number): number {
  const way = Math.sign(by);
  let at = from;
  let left = Math.abs(by);
  for (let next = from + way; left > 0 && next >= 0 && next < lines.length; next += way) {
    if (isHead(lines[next] ?? -1)) continue;
    at = next;
    left -= 1;
  }
  return at;
}
