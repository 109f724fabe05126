/** Questions asked one by one: what of a page is shown at once, and where one arrives on it. */
import type { Fault } from "../client/client";
import { NOT_ASKED } from "../client/kinds";
import type { Item } from "../items/answer";

/** A question and what is shown before it; the last one also with what follows it. */
export type Stop = readonly Item[];

/** Where on a page one arrives: at a question, behind one, at the last, or at the first. */
export type Landing = { readonly at: string } | { readonly after: string } | "last" | "first";

const SHOWN: ReadonlySet<string> = new Set(NOT_ASKED);

const isAsked = ({ kind }: Item): boolean => !SHOWN.has(kind);

/** The stops of a page's items in order; one without a question where none is asked. */
export function stopsOf(items: readonly Item[]): readonly Stop[] {
  const last = items.findLastIndex(isAsked);
  const stops: Item[][] = [[]];
  for (const [number, item] of items.entries()) {
    stops.at(-1)?.push(item);
    if (isAsked(item) && number < last) stops.push([]);
  }
  return stops;
}

/** The key of what is asked at a stop, none where nothing is. */
export function questionOf(stop: Stop | undefined): string {
  return stop?.find(isAsked)?.key ?? "";
}

function numberOf(stops: readonly Stop[], at: string): number {
  return stops.findIndex((stop) => stop.some(({ key }) => key === at));
}

/** What stands at the question `at` of a page, the first where that is not on it; `number` of
 * `count`, from 0. */
export function stopAt(items: readonly Item[], at: string) {
  const stops = stopsOf(items);
  const number = Math.max(numberOf(stops, at), 0);
  const stop = stops[number] ?? [];
  const before = number > 0 ? questionOf(stops[number - 1]) : null;
  return { items: stop, question: questionOf(stop), before, number, count: stops.length };
}

/** The question at which one arrives: the first that fails, if one does. */
export function landed(items: readonly Item[], faults: readonly Fault[], landing: Landing): string {
  const failing = new Set(faults.map(({ at }) => at.split("/")[0]));
  const first = items.find(({ key }) => failing.has(key));
  if (first) return first.key;
  const stops = stopsOf(items);
  if (landing === "first") return questionOf(stops[0]);
  if (landing === "last") return questionOf(stops.at(-1));
  if ("at" in landing) return questionOf(stops[Math.max(numberOf(stops, landing.at), 0)]);
  return questionOf(stops[numberOf(stops, landing.after) + 1]);
}
