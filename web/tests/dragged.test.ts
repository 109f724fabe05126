/** Where a row comes to that is dragged by so many pixels. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";

import { movedTo } from "../src/items/movedTo";
import { placeAfter } from "../src/items/useDragged";

const STEPS = fc.array(fc.integer({ min: 40, max: 200 }), { minLength: 1, maxLength: 12 });
const sum = (numbers: readonly number[]) => numbers.reduce((one, other) => one + other, 0);

describe("a row that is dragged", () => {
  it("goes past another once it covers half of it", () => {
    const steps = [50, 60, 100];
    const after = (from: number, by: number) => placeAfter({ from, by, steps });
    expect([after(0, 30), after(0, 31), after(0, 110), after(0, 111)]).toEqual([0, 1, 1, 2]);
    expect([after(2, -30), after(2, -31), after(2, -85), after(2, -86)]).toEqual([2, 1, 1, 0]);
  });

  it("stays in the list, and comes to where the rows it was dragged over end", () => {
    fc.assert(
      fc.property(STEPS, fc.nat(), fc.nat(), fc.integer(), (steps, one, other, far) => {
        const [from, to] = [one % steps.length, other % steps.length];
        const over = from < to ? steps.slice(from + 1, to + 1) : steps.slice(to, from);
        const by = from < to ? sum(over) : -sum(over);
        expect(placeAfter({ from, by, steps })).toBe(to);
        const place = placeAfter({ from, by: far, steps });
        expect(place).toBeGreaterThanOrEqual(0);
        expect(place).toBeLessThan(steps.length);
      }),
    );
  });

  it("leaves the others in their order", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(), { minLength: 1 }), fc.nat(), fc.nat(), (list, a, b) => {
        const [from, to] = [a % list.length, b % list.length];
        const moved = movedTo(list, from, to);
        expect(moved[to]).toBe(list[from]);
        expect(moved.filter((one) => one !== list[from])).toEqual(
          list.filter((one) => one !== list[from]),
        );
      }),
    );
  });
});
