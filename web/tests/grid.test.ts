/** What stands in the grid of a register, and what becomes of what is written there. */
import { describe, expect, it } from "vitest";
import fc from "fast-check";

import { clear, copied, fillDown, paste, pressed } from "../src/desk/registers/grid/actions";
import { asText, blockOf } from "../src/desk/registers/grid/clipboard";
import { cellWords, type Cell, type Column } from "../src/desk/registers/columns";
import type { CellsIn, CellsOut, Row } from "../src/desk/registers/data";
import { Grid } from "../src/desk/registers/grid/Grid";
import { HEAD } from "../src/desk/registers/grid/GridState";
import { laidOut, moved, placed, sortedBy, withAway, withWidth } from "../src/desk/views/layout";
import { linesOf } from "../src/desk/registers/grid/lines";

const COLUMNS: Column[] = [
  { key: "name", label: "Name", type: "text" },
  { key: "drinkers", label: "Drinkers", type: "number" },
  { key: "visit", label: "Visit", type: "date" },
];

const row = (id: number, values: Record<string, Cell>): Row => ({
  id,
  values,
  entry_number: null,
  filed: "2026-11-27T09:00:00Z",
  about: null,
});

/** A server that keeps rows; numbers have to be numbers, and nobody else changed a cell. */
class Kept {
  rows = new Map<number, Row>();
  calls: CellsIn[] = [];
  isAway = false;

  constructor(...rows: Row[]) {
    for (const one of rows) this.rows.set(one.id, one);
  }

  write = (body: CellsIn): Promise<CellsOut> => {
    if (this.isAway) return Promise.reject(new Error("away"));
    this.calls.push(body);
    const refused: CellsOut["refused"] = [];
    const changed = new Map<number, Row>();
    const added: Row[] = [];
    for (const { row: id, column, given, before } of body.edits ?? []) {
      const one = changed.get(id) ?? this.rows.get(id);
      const now = this.rows.get(id)?.values[column] ?? null;
      const wrong = column === "drinkers" && given && Number.isNaN(Number(given));
      if (!one || wrong || JSON.stringify(now) !== JSON.stringify(before)) {
        const code = wrong ? "unfit" : "changed";
        refused.push({ row: id, column, code, why: code, now });
        continue;
      }
      const others = Object.fromEntries(
        Object.entries(one.values).filter(([key]) => key !== column),
      );
      const values = given === null || given === "" ? others : { ...others, [column]: given };
      changed.set(id, { ...one, values });
    }
    (body.added ?? []).forEach((given, at) => {
      const values = Object.fromEntries(
        Object.entries(given).filter((one): one is [string, Cell] => Boolean(one[1])),
      );
      if (Number.isNaN(Number(values["drinkers"] ?? 0)))
        refused.push({ row: -at - 1, column: "drinkers", code: "unfit", why: "unfit", now: null });
      else added.push(row(this.rows.size + added.length + 1, values));
    });
    if (refused.length && !body.partly) return Promise.resolve({ taken: false, rows: [], refused });
    const rows = [...changed.values(), ...added];
    for (const one of rows) this.rows.set(one.id, one);
    return Promise.resolve({ taken: true, rows, refused });
  };

  read = (ids: readonly number[]): Promise<Row[]> =>
    Promise.resolve(ids.flatMap((id) => this.rows.get(id) ?? []));

  gone = new Map<number, Row>();

  remove = (ids: number[], back: boolean): Promise<number[]> => {
    const [from, to] = back ? [this.gone, this.rows] : [this.rows, this.gone];
    const moved = ids.filter((id) => from.has(id));
    for (const id of moved) {
      to.set(id, from.get(id) ?? row(id, {}));
      from.delete(id);
    }
    return Promise.resolve(moved);
  };

  values = () => [...this.rows].map(([id, { values }]) => [id, values]);
}

const settled = () => new Promise((done) => setTimeout(done));

async function opened(...rows: Row[]): Promise<{ grid: Grid; kept: Kept }> {
  const kept = new Kept(...rows);
  const grid = new Grid({ rows: kept.read, write: kept.write, remove: kept.remove });
  grid.show(COLUMNS.map(({ key }) => key));
  grid.order({
    ids: rows.map(({ id }) => id),
    groups: [],
    more: false,
    mark: 1,
    revision: 1,
  });
  await grid.need(0, rows.length);
  return { grid, kept };
}

const three = () =>
  opened(
    row(3, { name: "Ines", drinkers: "4" }),
    row(2, { name: "Noor", drinkers: "3" }),
    row(1, { name: "Bram" }),
  );

describe("the grid", () => {
  it("goes from cell to cell, to the names of the columns, and no further", async () => {
    const { grid } = await three();
    grid.go({ row: 3, column: "name" });
    grid.move(1, 1);
    expect(grid.active).toEqual({ row: 2, column: "drinkers" });
    grid.move(9, 9);
    expect(grid.active).toEqual({ row: 1, column: "visit" });
    grid.move(-9, 0);
    expect(grid.active).toEqual({ row: 3, column: "visit" });
    grid.move(-1, 0);
    expect(grid.active).toEqual({ row: HEAD, column: "visit" });
    grid.move(1, -1);
    expect(grid.active).toEqual({ row: 3, column: "drinkers" });
  });

  it("passes over the heads of groups", async () => {
    const { grid } = await three();
    grid.order({
      ids: [3, 2, 1],
      groups: [
        { cell: "a", rows: 1 },
        { cell: null, rows: 2 },
      ],
      more: false,
      mark: 1,
      revision: 1,
    });
    expect(grid.lines).toEqual([-1, 3, -2, 2, 1]);
    expect(grid.count).toBe(3);
    grid.go({ row: 3, column: "name" });
    grid.move(1, 0);
    expect(grid.active?.row).toBe(2);
    grid.move(-5, 0, true);
    expect(grid.selection().rows).toEqual([3, 2]);
  });

  it("keeps what does not fit, and why, where it was written", async () => {
    const { grid, kept } = await three();
    await grid.write([{ row: 3, column: "drinkers", given: "many" }]);
    expect(grid.at(3, "drinkers")).toEqual({ typed: "many", why: "unfit" });
    expect(grid.held).toBeNull();
    expect(kept.rows.get(3)?.values["drinkers"]).toBe("4");
    await grid.write([{ row: 3, column: "drinkers", given: "5" }]);
    expect(grid.at(3, "drinkers")).toBeUndefined();
    expect(grid.cell(3, "drinkers")).toBe("5");
  });

  it("tells what somebody else wrote, and lets it be written over knowingly", async () => {
    const { grid, kept } = await three();
    kept.rows.set(3, row(3, { name: "Ines", drinkers: "7" }));
    await grid.write([{ row: 3, column: "drinkers", given: "5", before: "4" }]);
    expect(grid.at(3, "drinkers")).toEqual({ typed: "5", why: "changed", now: "7" });
    expect(grid.cell(3, "drinkers")).toBe("7");
    await grid.write([{ row: 3, column: "drinkers", given: "5", before: "7" }]);
    expect(kept.rows.get(3)?.values["drinkers"]).toBe("5");
  });

  it("loses nothing where the server is away", async () => {
    const { grid, kept } = await three();
    kept.isAway = true;
    await grid.write([{ row: 3, column: "name", given: "Ines Carvalho" }]);
    expect(grid.at(3, "name")?.typed).toBe("Ines Carvalho");
    expect(grid.refusals).toBe(1);
    kept.isAway = false;
    await grid.write([{ row: 3, column: "name", given: "Ines Carvalho" }]);
    expect(grid.refusals).toBe(0);
  });

  it("holds a block back until it is said what of it is taken", async () => {
    const { grid, kept } = await three();
    const before = kept.values();
    grid.go({ row: 3, column: "drinkers" });
    await paste(grid, "9\t2026-11-27\r\nmany\t2026-11-28\r\n");
    await settled();
    expect(kept.values()).toEqual(before);
    expect(grid.held?.refused).toHaveLength(1);
    grid.takeHeld();
    await settled();
    expect(kept.rows.get(3)?.values).toEqual({
      name: "Ines",
      drinkers: "9",
      visit: "2026-11-27",
    });
    expect(kept.rows.get(2)?.values["visit"]).toBe("2026-11-28");
    expect(grid.at(2, "drinkers")?.typed).toBe("many");
    await grid.undo();
    expect(kept.values()).toEqual(before);
  });

  it("writes none of a block that is left", async () => {
    const { grid, kept } = await three();
    grid.go({ row: 2, column: "drinkers" });
    await paste(grid, "many");
    await settled();
    expect(grid.held).toBeNull();
    grid.go({ row: 3, column: "drinkers" });
    grid.go({ row: 2, column: "drinkers" }, true);
    await paste(grid, "much");
    await settled();
    expect(grid.held?.refused).toHaveLength(2);
    grid.leaveHeld();
    expect(grid.refusals).toBe(0);
    expect(kept.calls.at(-1)?.partly).toBe(false);
  });

  it("adds the rows of a block that go beyond the last, and tells of columns that do", async () => {
    const { grid, kept } = await three();
    grid.go({ row: 1, column: "visit" });
    const told = await paste(grid, "2026-11-27\tx\r\n2026-11-28\ty\r\n");
    await settled();
    expect(told).toContain("1 column");
    expect(kept.rows.get(4)?.values).toEqual({ visit: "2026-11-28" });
    expect(grid.lines).toEqual([4, 3, 2, 1]);
    await grid.undo();
    expect(grid.lines).toEqual([3, 2, 1]);
    await grid.redo();
    expect(grid.lines).toEqual([4, 3, 2, 1]);
  });

  it("fills down, clears, and takes it back", async () => {
    const { grid, kept } = await three();
    const before = kept.values();
    grid.go({ row: 3, column: "drinkers" });
    grid.go({ row: 1, column: "drinkers" }, true);
    await fillDown(grid);
    await settled();
    expect([3, 2, 1].map((id) => grid.cell(id, "drinkers"))).toEqual(["4", "4", "4"]);
    await clear(grid);
    await settled();
    expect([3, 2, 1].map((id) => grid.cell(id, "drinkers"))).toEqual([null, null, null]);
    await grid.undo();
    await grid.undo();
    expect(kept.values()).toEqual(before);
    await grid.redo();
    expect(grid.cell(1, "drinkers")).toBe("4");
  });

  it("does not move what one reads when rows arrive, and leaves a row that goes", async () => {
    const { grid } = await three();
    grid.go({ row: 2, column: "name" });
    grid.news({
      rows: [
        { row: row(9, { name: "New" }), fits: true, removed: false },
        { row: row(8, { name: "Other" }), fits: false, removed: false },
        { row: row(2, { name: "Noor H" }), fits: false, removed: false },
      ],
      many: false,
      mark: 5,
      revision: 1,
      others: [],
    });
    expect(grid.lines).toEqual([9, 3, 2, 1]);
    expect([grid.above, grid.mark, [...grid.fresh]]).toEqual([1, 5, [9]]);
    expect([grid.active?.row, grid.cell(2, "name")]).toEqual([2, "Noor H"]);
    grid.news({
      rows: [{ row: row(2, {}), fits: false, removed: true }],
      many: false,
      mark: 6,
      revision: 1,
      others: [],
    });
    expect(grid.lines).toEqual([9, 3, 1]);
    expect(grid.active?.row).toBe(1);
  });

  it("does what keys stand for, and leaves the grid at the ends of a row", async () => {
    const { grid } = await three();
    const begun: (string | null)[] = [];
    const heads: string[] = [];
    const hands = {
      grid,
      page: 2,
      mayWrite: true,
      begin: (text: string | null) => void begun.push(text),
      openHead: (column: string) => void heads.push(column),
      openRow: () => undefined,
      tell: () => undefined,
    };
    const key = (name: string, more: object = {}) =>
      pressed(
        { key: name, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, ...more },
        hands,
      );
    grid.go({ row: 3, column: "name" });
    expect([key("x"), key("Enter"), key("F2")]).toEqual([true, true, true]);
    expect(begun).toEqual(["x", null, null]);
    expect([key("Tab"), key("Tab"), key("Tab")]).toEqual([true, true, false]);
    expect(key("PageDown")).toBe(true);
    expect(grid.active).toEqual({ row: 1, column: "visit" });
    key("Home", { ctrlKey: true });
    key("ArrowUp");
    key("Enter");
    expect(heads).toEqual(["name"]);
    expect(key("y")).toBe(false);
    expect(key("a", { ctrlKey: true })).toBe(true);
    expect(grid.selection()).toEqual({ rows: [3, 2, 1], columns: ["name", "drinkers", "visit"] });
    expect(copied(grid, COLUMNS, new Map())).toBe("Ines\t4\t\r\nNoor\t3\t\r\nBram\t\t");
    hands.mayWrite = false;
    expect([key("x"), key("Delete"), key("ArrowDown")]).toEqual([false, false, true]);
  });
});

describe("the clipboard", () => {
  it("reads what it writes, whatever stands in the cells", () => {
    const cell = fc.string({ unit: fc.constantFrom("a", "\t", "\n", '"', " ", "é", ",") });
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 5 }), (block) => {
        expect(blockOf(asText(block))).toEqual(block);
      }),
    );
  });

  it("reads a block of a spreadsheet, with lines in quotes and rows of different lengths", () => {
    expect(blockOf('a\t"b\nc ""d"""\r\ne\r\n')).toEqual([
      ["a", 'b\nc "d"'],
      ["e", ""],
    ]);
  });
});

describe("how columns stand", () => {
  it("is widened, moved, put away and frozen", () => {
    let view = withWidth(COLUMNS, {}, "name", 9999);
    view = moved(COLUMNS, view, "visit", -1);
    view = withAway(COLUMNS, view, "visit", true);
    view = moved(COLUMNS, view, "drinkers", -1);
    expect(laidOut(COLUMNS, view).map(({ column }) => column)).toEqual([
      "drinkers",
      "name",
      "visit",
    ]);
    const shown = placed(COLUMNS, { ...view, frozen: 1 });
    expect(shown.map(({ column, frozen }) => [column.key, frozen])).toEqual([
      ["drinkers", true],
      ["name", false],
    ]);
    expect(shown[1]?.width).toBe(900);
    expect(moved(COLUMNS, view, "drinkers", -1)).toBe(view);
    const others = [...COLUMNS.slice(1), { key: "new", label: "New" }];
    expect(laidOut(others, view).map(({ column }) => column)).toEqual(["drinkers", "visit", "new"]);
    expect(sortedBy({ sort: [{ column: "a" }] }, "b", true).sort).toEqual([
      { column: "b", descending: true },
      { column: "a" },
    ]);
  });

  it("has the head of each group above its rows", () => {
    const groups = [
      { cell: null, rows: 2 },
      { cell: "x", rows: 1 },
    ];
    expect(linesOf({ ids: [5, 4, 3], groups })).toEqual([-1, 5, 4, -2, 3]);
  });
});

it("says cells so that they can be written again", () => {
  const words = (type: Column["type"], cell: Cell) =>
    cellWords(cell, { key: "a", label: "A", type: type ?? "text" }, new Map([["7", "Sam"]]));
  expect(words("date", "2026-09-03")).toBe("3 Sep 2026");
  expect(words("yes_no", false)).toBe("No");
  expect(words("person", "7")).toBe("Sam");
  expect(words("files", ["a", "b"])).toBe("2 files");
  expect(words("date_time", new Date(2026, 10, 27, 9, 5).toISOString())).toBe("2026-11-27 09:05");
});
