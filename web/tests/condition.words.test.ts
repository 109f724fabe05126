/** Conditions as sentences: the core says the same (`tests/core/conditions/test_in_words.py`). */
import { expect, test } from "vitest";

import { sentence } from "../src/desk/condition/words";
import type { Condition } from "../src/desk/document";
import type { Subject } from "../src/desk/subjects";
import said from "./condition_words.json";

const subject = (key: string, kind: Subject["kind"], label: string, more = {}): Subject => ({
  key,
  label,
  kind,
  options: [],
  ...more,
});

const SUBJECTS: Subject[] = [
  subject("water", "pick_one", "Water", {
    options: [
      { code: "well", label: "Well" },
      { code: "else", label: "Another" },
    ],
  }),
  subject("uses", "pick_many", "Uses", {
    options: [
      { code: "drink", label: "Drinking" },
      { code: "wash", label: "Washing" },
    ],
  }),
  subject("litres", "number", "Litres"),
  subject("day", "date", "Day"),
  subject("note", "short_text", "Note"),
  subject("ill", "yes_no", "Ill"),
  subject("wells", "roster", "Wells", { inner: [subject("deep", "yes_no", "Deep")] }),
  subject("saved:dry", "yes_no", "A dry year"),
];

test.each(said as { condition: Condition; words: string }[])("$words", ({ condition, words }) => {
  expect(sentence(condition, SUBJECTS)).toBe(words);
});
