/** What stands in the table from top to bottom: entries, and the heads of groups. */
import type { Entry } from "./data";

export interface Line {
  entry?: Entry;
  /** Of the head of a group: what its entries say, in words. */
  group?: string;
}

const known = new WeakMap<Entry, Line>();

/** The same line each time, so that its row is not drawn anew when others come. */
function lineOf(entry: Entry): Line {
  const line = known.get(entry) ?? { entry };
  known.set(entry, line);
  return line;
}

/** `said` tells what an entry says in the column that is grouped by; null where there is none. */
export function linesOf(
  entries: readonly Entry[],
  said: ((entry: Entry) => string) | null,
): readonly Line[] {
  if (!said) return entries.map(lineOf);
  const found: Line[] = [];
  let last: string | undefined;
  for (const entry of entries) {
    const group = said(entry);
    if (group !== last) found.push({ group });
    last = group;
    found.push(lineOf(entry));
  }
  return found;
}
