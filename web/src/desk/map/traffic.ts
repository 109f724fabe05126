/** How many entries went which way, put on the map of the draft. */
import { queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";
import { LIVE } from "../figures/data";
import { finishAt, pageAt, wayId, type Graph, type Stop } from "./graph";

export type Traffic = Schema<"Traffic">;
export type PageTraffic = Schema<"PageTraffic">;

/** By the places of a map: how many came to a stop, or took a way; null is not told. */
export type Counts = ReadonlyMap<string, number | null>;

export const NO_COUNTS: Counts = new Map();

/** Of an edition, the newest where none is named; counted again as entries arrive. */
export const trafficQuery = (id: string, edition: number | null) =>
  queryOptions({
    queryKey: ["traffic", id, edition],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/traffic", {
          params: { path: { id }, query: { view: "{}", archived: true, edition } },
        }),
      ),
    ...LIVE,
  });

/** Which rule of a page stood in an edition, from 0, by what it says and where it leads. */
function ruleThen(then: Stop, { rules }: Stop, at: number): number {
  const same = (one: Stop["rules"][number], other: Stop["rules"][number] | undefined) =>
    one.says === other?.says && one.to === other.to;
  const nth = rules.slice(0, at).filter((one) => same(one, rules[at])).length;
  const found = then.rules.flatMap((one, place) => (same(one, rules[at]) ? [place] : []));
  return found[nth] ?? -1;
}

const onwards = ({ ways }: Graph, at: string) =>
  ways.find(({ from, rule }) => from === at && rule === null)?.to;

export const pastId = (at: string) => `${at} past`;

/** How many were led past each page that is shown under a condition: who came as far as it, from
 * the pages before it or past them, and was not shown it. */
function past(traffic: Traffic, { stops, ways }: Graph): Counts {
  const found = new Map<string, number | null>();
  const taken = new Map<string, number | null>();
  let before: number | null = 0;
  traffic.pages.forEach(({ key, came, rules, on }, number) => {
    const at = pageAt(key);
    [on, ...rules].forEach((count, rule) => taken.set(wayId(at, rule || null), count));
    const arriving = [...ways.filter(({ to }) => to === at).map(({ id }) => taken.get(id) ?? null)];
    const all = [before, ...arriving, came];
    const led = number && all.every((one) => one !== null) ? sum(all) - 2 * (came ?? 0) : null;
    before = number ? led : 0;
    if (stops.find((one) => one.at === at)?.condition) found.set(at, led);
  });
  return found;
}

const sum = (all: readonly (number | null)[]) =>
  all.reduce<number>((so, one) => so + (one ?? 0), 0);

/** What is counted of an edition, `then`, at the places of the draft, `now`; what the draft has
 * otherwise has no number. */
export function countsOf(traffic: Traffic, then: Graph, now: Graph): Counts {
  const counts = new Map<string, number | null>();
  const passed = past(traffic, then);
  for (const { key, came } of traffic.finishes) counts.set(finishAt(key), came);
  for (const { key, came, rules, on } of traffic.pages) {
    const at = pageAt(key);
    const [before, stop] = [then, now].map(({ stops }) => stops.find((one) => one.at === at));
    if (!before || !stop) continue;
    counts.set(at, came);
    const led = passed.get(at);
    if (led !== undefined && before.condition === stop.condition) counts.set(pastId(at), led);
    stop.rules.forEach((_, place) => {
      const count = rules[ruleThen(before, stop, place)];
      if (count !== undefined) counts.set(wayId(at, place + 1), count);
    });
    if (onwards(then, at) === onwards(now, at)) counts.set(wayId(at, null), on);
  }
  return counts;
}

/** Whether the draft has something that the edition had not, or had otherwise. */
export const isChanged = (counts: Counts, { stops, ways }: Graph): boolean =>
  [...stops.map(({ at }) => at), ...ways.map(({ id }) => id)].some((place) => !counts.has(place));
