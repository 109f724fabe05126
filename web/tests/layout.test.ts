/** The layout of the map, by the engine itself: everything is placed, nothing covers anything. */
import ELK from "elkjs/lib/elk.bundled.js";
import * as fc from "fast-check";
import { expect, test } from "vitest";

import type { Doc } from "../src/desk/document";
import { graphOf, type Graph } from "../src/desk/map/graph";
import { asElk, inColumns, laidOut, type Laid, type Placed } from "../src/desk/map/layout";

const elk = new ELK();
const laidFor = async (graph: Graph): Promise<Laid> => laidOut(await elk.layout(asElk(graph)));

/** Pages in a row; of each two numbers, a skip rule from the one page to the other behind it. */
function paged(count: number, skips: readonly (readonly [number, number])[], finishes = 3): Doc {
  const ends = Array.from({ length: finishes }, (_, at) => `end_${at}`);
  const targets = (from: number) => [
    ...Array.from({ length: Math.max(count - from - 2, 0) }, (_, at) => ({
      kind: "page" as const,
      page: `page_${from + 2 + at}`,
    })),
    ...ends.map((finish) => ({ kind: "finish" as const, finish })),
  ];
  const when = { op: "answered" as const, item: "own" };
  return {
    title: { en: "Test" },
    pages: Array.from({ length: count }, (_, at) => ({
      key: `page_${at}`,
      title: { en: `Page ${at}` },
      items: at ? [] : [{ kind: "yes_no" as const, key: "own", text: { en: "Own" } }],
      ...(at % 3 === 1 ? { shown_when: when } : {}),
      skips: skips
        .filter(([from]) => from % count === at)
        .map(([, to]) => ({ when, to: targets(at)[to % targets(at).length]! })),
    })),
    finishes: ends.map((key) => ({ key, title: { en: key } })),
  };
}

const apart = (one: Placed, other: Placed) =>
  one.x + one.width <= other.x ||
  other.x + other.width <= one.x ||
  one.y + one.height <= other.y ||
  other.y + other.height <= one.y;

function sound(graph: Graph, laid: Laid): void {
  const placed = graph.stops.map(({ at }) => laid.stops.get(at)!);
  for (const [at, one] of placed.entries()) {
    expect(one.x + one.width).toBeLessThanOrEqual(laid.width);
    expect(one.y + one.height).toBeLessThanOrEqual(laid.height);
    for (const other of placed.slice(at + 1)) expect(apart(one, other)).toBe(true);
  }
  for (const { id } of graph.ways) expect(laid.ways.get(id)).toMatch(/^M[\d.]+ [\d.]+L/);
}

test("whatever the rules, everything is placed and no card covers another", async () => {
  const skips = fc.array(fc.tuple(fc.nat(60), fc.nat(60)), { maxLength: 45 });
  await fc.assert(
    fc.asyncProperty(fc.integer({ min: 1, max: 40 }), skips, async (count, rules) => {
      const graph = graphOf(paged(count, rules));
      sound(graph, await laidFor(graph));
    }),
    { numRuns: 60 },
  );
}, 60_000);

test("a short questionnaire is one straight column, pages in their order", async () => {
  const graph = graphOf(paged(10, [[2, 3]], 1));
  const { stops } = await laidFor(graph);
  const pages = graph.stops.map(({ at }) => stops.get(at)!);
  expect(new Set(pages.map(({ x }) => x)).size).toBe(1);
  expect(pages.map(({ y }) => y)).toEqual(pages.map(({ y }) => y).sort((a, b) => a - b));
});

test("sixty pages go on in columns, and fit a screen together", async () => {
  const graph = graphOf(
    paged(60, [
      [4, 2],
      [9, 1],
      [21, 30],
      [33, 3],
      [48, 1],
    ]),
  );
  expect(inColumns(graph.stops.length)).toBe(true);
  const laid = await laidFor(graph);
  sound(graph, laid);
  expect(Math.min(908 / laid.width, 640 / laid.height)).toBeGreaterThan(0.25);
});
