import { expect, test } from "vitest";

import { day, moment, number, plural } from "../src/items/readable";
import cases from "./readable.json";

const LANGUAGES = ["en", "es", "ar"] as const;

test.each([
  ["numbers", (raw: string | number, language: string) => number(String(raw), language)],
  ["days", (raw: string | number, language: string) => day(String(raw), language)],
  ["moments", (raw: string | number, language: string) => moment(String(raw), language)],
  ["plurals", (raw: string | number, language: string) => plural(Number(raw), language)],
] as const)("%s read as the server says them", (name, say) => {
  for (const [raw = "", ...expected] of cases[name]) {
    expect(LANGUAGES.map((language) => say(raw, language))).toEqual(expected);
  }
});
