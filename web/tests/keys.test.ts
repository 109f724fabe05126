/** Keys made from words, held to the same names as the server makes. */
import { expect, test } from "vitest";

import { keyFrom } from "../src/desk/keys";
import cases from "./keys.json";

test.each(cases as [string, string[], string, string][])(
  "%s, with %j taken",
  (words, taken, spare, wanted) => {
    expect(keyFrom(words, new Set(taken), spare)).toBe(wanted);
  },
);
