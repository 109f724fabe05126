/** The values that divide places, and how many there are for each combination of them. */
import { everyItem, optionsOf, say, type Doc } from "../document";
import type { Places, Standing } from "./data";

export type Cell = Standing["places"][number]["cells"][number];

export const sameValues = (one: readonly string[], other: readonly string[]): boolean =>
  one.length === other.length && one.every((value, at) => value === other[at]);

/** The values of a question that divides places, as they are kept, and what they are called. */
export function valuesOf(doc: Doc, key: string): { code: string; label: string }[] {
  const item = everyItem(doc).find((one) => one.key === key);
  if (!item) return [];
  if (item.kind === "yes_no")
    return [
      { code: "yes", label: "Yes" },
      { code: "no", label: "No" },
    ];
  return optionsOf(item).map(({ code, label }) => ({ code, label: say(doc, label) || code }));
}

function combinations(doc: Doc, by: readonly string[]): { values: string[]; labels: string[] }[] {
  return by.reduce<{ values: string[]; labels: string[] }[]>(
    (found, key) =>
      found.flatMap(({ values, labels }) =>
        valuesOf(doc, key).map(({ code, label }) => ({
          values: [...values, code],
          labels: [...labels, label],
        })),
      ),
    [{ values: [], labels: [] }],
  );
}

/** Cells as they will be: what stands now, with the limits that are being written. */
export function cellsOf(
  doc: Doc,
  places: Places,
  standing: Standing,
): (Cell & { values: string[] })[] {
  const known = standing.places.find(({ key }) => key === places.key)?.cells ?? [];
  return combinations(doc, places.by ?? []).map(({ values, labels }) => {
    const cell = JSON.stringify([places.key, ...values]);
    const now = known.find((one) => one.cell === cell);
    const own = places.limits?.find((one) => sameValues(one.values, values));
    const counted = { taken: now?.taken ?? 0, held: now?.held ?? 0, waiting: now?.waiting ?? 0 };
    return { cell, labels, values, ...counted, most: own ? own.most : (places.most ?? null) };
  });
}
