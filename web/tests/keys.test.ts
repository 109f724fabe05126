/** Keys made from words, held to the same names as the server makes. */
import { expect, test } from "vitest";

import { keyFrom } from "../src/desk/keys";
import { proposed } from "../src/desk/staffNames";
import cases from "./keys.json";
import names from "./staff_names.json";

test.each(cases as [string, string[], string, string][])(
  "%s, with %j taken",
  (words, taken, spare, wanted) => {
    expect(keyFrom(words, new Set(taken), spare)).toBe(wanted);
  },
);

test.each(names as [string, string][])("the name that %j proposes", (wording, name) => {
  expect(proposed(wording)).toBe(name);
});
