/** The map: its ways, what a walk lights up, and repairs as patches. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import type { Doc } from "../src/desk/document";
import { graphOf, litBy } from "../src/desk/map/graph";
import { asElk } from "../src/desk/map/layout";
import { countsOf, isChanged } from "../src/desk/map/traffic";
import { Outdated, patched } from "../src/desk/proof/patch";
import { marksOf, spotAt } from "../src/desk/proof/spots";
import { foundNothing, walksTogether } from "../src/desk/proof/summary";
import { anyEdit, BLANK } from "./anyEdit";

const yesNo = (key: string) => ({ kind: "yes_no" as const, key, text: { en: key } });
const DOC: Doc = {
  title: { en: "Test" },
  pages: [
    {
      key: "a",
      title: { en: "A" },
      items: [yesNo("own")],
      skips: [
        { when: { op: "is", item: "own", value: false }, to: { kind: "finish", finish: "no" } },
        { when: { op: "is", item: "own", value: true }, to: { kind: "page", page: "c" } },
      ],
    },
    { key: "b", title: { en: "B" }, items: [], skips: [] },
    {
      key: "c",
      title: { en: "C" },
      shown_when: { op: "answered", item: "own" },
      items: [{ kind: "roster", key: "wells", text: { en: "Wells" }, items: [yesNo("deep")] }],
      skips: [],
    },
    { key: "d", title: { en: "D" }, items: [], skips: [] },
  ],
  finishes: [
    { key: "done", title: { en: "Done" } },
    { key: "no", title: { en: "No" } },
  ],
};

test("every page leads on by its rules and straight", () => {
  const { stops, ways } = graphOf(DOC);
  expect(stops.map(({ at }) => at)).toEqual([
    "pages/a",
    "pages/b",
    "pages/c",
    "pages/d",
    "finishes/done",
    "finishes/no",
  ]);
  expect(ways.map(({ from, to, rule }) => [from, to, rule])).toEqual([
    ["pages/a", "finishes/no", 1],
    ["pages/a", "pages/c", 2],
    ["pages/a", "pages/b", null],
    ["pages/b", "pages/c", null],
    ["pages/c", "pages/d", null],
    ["pages/d", "finishes/done", null],
  ]);
  expect(stops[0]?.rules[0]?.says).toBe("own is No");
});

test("a walk lights its stops and ways, and the way past what it does not see", () => {
  const rules = litBy(DOC, { pages: ["a", "d"], rules: [2, null], finish: "done" });
  expect([...rules].sort()).toEqual(
    ["finishes/done", "pages/a", "pages/a 2", "pages/c on", "pages/d", "pages/d on"].sort(),
  );
  const short = litBy(DOC, { pages: ["a"], rules: [1], finish: "no" });
  expect([...short].sort()).toEqual(["finishes/no", "pages/a", "pages/a 1"]);
  const unfinished = litBy(DOC, { pages: ["a", "b"], rules: [null, null], finish: null });
  expect([...unfinished].sort()).toEqual(["pages/a", "pages/a on", "pages/b"]);
});

test("whatever is edited, every way of the map begins and ends at a stop with a port for it", () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 20 }), (edits) => {
      const graph = graphOf(edits.reduce((doc, edit) => edit(doc), BLANK));
      const { children = [], edges = [] } = asElk(graph);
      const ports = new Set(children.flatMap((one) => (one.ports ?? []).map(({ id }) => id)));
      for (const { sources, targets } of edges) {
        for (const end of [...sources, ...targets]) expect(ports.has(end)).toBe(true);
      }
    }),
  );
});

test("a repair is made where things are as they were, and refused elsewhere", () => {
  const rule = DOC.pages[0]?.skips?.[1];
  const before = [
    { op: "test" as const, path: "/pages/0/skips/1", value: rule },
    { op: "remove" as const, path: "/pages/0/skips/1" },
    { op: "add" as const, path: "/pages/0/skips/0", value: rule },
  ];
  const mended = patched(DOC, before);
  expect(mended.pages[0]?.skips?.map(({ to }) => to.kind)).toEqual(["page", "finish"]);
  expect(mended.pages[1]).toBe(DOC.pages[1]);
  expect(() => patched(mended, before)).toThrow(Outdated);
  const condition = [
    { op: "test" as const, path: "/pages/2/shown_when", value: DOC.pages[2]?.shown_when },
    { op: "replace" as const, path: "/pages/2/shown_when", value: null },
  ];
  expect(patched(DOC, condition).pages[2]?.shown_when).toBeNull();
});

test("places become what is selected, and marks count them by stop and rule", () => {
  expect(spotAt(DOC, "pages/c/items/wells/items/deep/options/x")).toEqual({
    on: "page",
    page: 2,
    item: 0,
    inner: 0,
  });
  expect(spotAt(DOC, "pages/a/skips/1")).toEqual({ on: "page", page: 0, item: null });
  expect(spotAt(DOC, "finishes/no")).toEqual({ on: "finish", finish: 1 });
  expect(spotAt(DOC, "pages/gone")).toBeNull();
  const found = (at: string, level: "wrong" | "advice") => ({
    code: "x",
    at,
    level,
    says: "",
    because: [],
    repairs: [],
    example: null,
  });
  const marks = marksOf([found("pages/a/skips/2", "advice"), found("pages/a", "wrong")]);
  expect(marks.get("pages/a")).toEqual({ count: 2, level: "wrong" });
  expect(marks.get("pages/a/skips/2")).toEqual({ count: 1, level: "advice" });
});

test("what is not decided is told, and nothing is said to be reached that is not", () => {
  const proof = { revision: 1, proved: true, findings: [], open: [], examples: {} };
  const place = { at: "pages/a", name: "page 1, A" };
  expect(foundNothing(proof)).toBe("Every page, question and finish can be reached.");
  expect(walksTogether(3, proof)).toBe("3 walks that together take every branch.");
  const open = { ...proof, open: [place] };
  expect(foundNothing(open)).toBe("Nothing wrong was found. 1 place is not decided.");
  expect(walksTogether(1, open)).toBe("1 walk that takes every branch that is decided.");
  const several = { ...proof, open: [place, place] };
  expect(foundNothing(several)).toBe("Nothing wrong was found. 2 places are not decided.");
});

const page = (key: string, came: number | null, rules: (number | null)[], on: number | null) => ({
  key,
  came,
  rules,
  on,
  stopped: 0,
});
/** Of 10 one ended at once and three skipped b; of the nine left four were not shown c. */
const TRAFFIC = {
  edition: 1,
  entries: 10,
  anonymised: 0,
  pages: [page("a", 10, [1, 3], 6), page("b", 6, [], 6), page("c", 5, [], 5), page("d", 9, [], 9)],
  finishes: [
    { key: "done", came: 9 },
    { key: "no", came: 1 },
  ],
};

test("what is counted stands where it was counted", () => {
  const graph = graphOf(DOC);
  const counts = countsOf(TRAFFIC, graph, graph);
  expect(isChanged(counts, graph)).toBe(false);
  expect(Object.fromEntries(counts)).toEqual({
    "pages/a": 10,
    "pages/a 1": 1,
    "pages/a 2": 3,
    "pages/a on": 6,
    "pages/b": 6,
    "pages/b on": 6,
    "pages/c": 5,
    "pages/c past": 4,
    "pages/c on": 5,
    "pages/d": 9,
    "pages/d on": 9,
    "finishes/done": 9,
    "finishes/no": 1,
  });
});

test("rules keep their number where they were moved, and a new one has none", () => {
  const then = graphOf(DOC);
  const [a, ...others] = DOC.pages;
  const [first, second] = a?.skips ?? [];
  if (!a || !first || !second) throw new Error("the document has two rules");
  const other = { when: { op: "answered" as const, item: "own" }, to: first.to };
  const draft = { ...DOC, pages: [{ ...a, skips: [second, other, first] }, ...others] };
  const counts = countsOf(TRAFFIC, then, graphOf(draft));
  expect([1, 2, 3].map((rule) => counts.get(`pages/a ${rule}`))).toEqual([3, undefined, 1]);
  expect(isChanged(counts, graphOf(draft))).toBe(true);
});

test("nobody is led past where it is not told how many came", () => {
  const untold = { ...TRAFFIC, pages: TRAFFIC.pages.map((one) => ({ ...one })) };
  untold.pages[1] = page("b", null, [], null);
  const counts = countsOf(untold, graphOf(DOC), graphOf(DOC));
  expect(counts.get("pages/b")).toBeNull();
  expect(counts.get("pages/c past")).toBeNull();
  expect(counts.get("pages/d")).toBe(9);
});
