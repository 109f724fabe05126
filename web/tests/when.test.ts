/** Moments as they read alone, and within a sentence. */
import { expect, test } from "vitest";

import { when, whenAmid } from "../src/desk/when";

const now = new Date(2026, 10, 28, 16, 30);
const at = (day: number, hour: number) => new Date(2026, 10, day, hour, 5).toISOString();

test("near days have a name, which is small within a sentence", () => {
  expect(when(at(28, 9), now)).toBe("Today 09:05");
  expect(when(at(27, 9), now)).toBe("Yesterday 09:05");
  expect(whenAmid(at(28, 9), now)).toBe("today 09:05");
  expect(whenAmid(at(27, 9), now)).toBe("yesterday 09:05");
  expect(whenAmid(at(29, 9), now)).toBe("tomorrow 09:05");
});

test("other days read the same in both", () => {
  for (const moment of [at(20, 9), at(30, 9), new Date(2026, 9, 3).toISOString()])
    expect(whenAmid(moment, now)).toBe(when(moment, now));
});
