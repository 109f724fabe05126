/** Several items moved at once, and texts beside their translations. */
import * as fc from "fast-check";
import { expect, test } from "vitest";

import { everyItem, itemsOf, type Doc } from "../src/desk/document";
import { moveTo, pagesTo } from "../src/desk/draft/arrange";
import { left, linesOf, stateOf, translated } from "../src/desk/translate/lines";
import { anyEdit, at, BLANK } from "./anyEdit";

const drafts = fc
  .array(anyEdit, { maxLength: 25 })
  .map((edits) => edits.reduce<Doc>((doc, edit) => edit(doc), BLANK));

test("whatever is moved wherever, every item is there once, and what moved stands in its order", () => {
  fc.assert(
    fc.property(drafts, fc.array(at), at, at, (doc, picks, page, item) => {
      const items = everyItem(doc);
      const keys = new Set(picks.flatMap((pick) => items[pick % items.length]?.key ?? []));
      const target = doc.pages[page % doc.pages.length]!;
      const before = itemsOf(target)[item % (itemsOf(target).length + 1)]?.key ?? null;
      const moved = moveTo(doc, keys, { page: target.key, item: before });
      expect(
        everyItem(moved)
          .map(({ key }) => key)
          .sort(),
      ).toEqual(items.map(({ key }) => key).sort());
      const there = moved.pages.find(({ key }) => key === target.key)!;
      const wanted = items.filter(({ key }) => keys.has(key)).map(({ key }) => key);
      const found = itemsOf(there).map(({ key }) => key);
      expect(found.filter((key) => keys.has(key))).toEqual(wanted);
      const stays = (list: readonly string[]) => list.filter((key) => !keys.has(key));
      const others = itemsOf(target).map(({ key }) => key);
      expect(stays(found)).toEqual(stays(others));
    }),
  );
});

test("whatever pages are moved wherever, each is there once, and the others keep their order", () => {
  fc.assert(
    fc.property(drafts, fc.array(at), at, (doc, picks, before) => {
      const keys = doc.pages.map(({ key }) => key);
      const moving = new Set(picks.map((pick) => keys[pick % keys.length]!));
      const place = keys[before % (keys.length + 1)] ?? null;
      const found = pagesTo(doc, moving, place).pages.map(({ key }) => key);
      expect([...found].sort()).toEqual([...keys].sort());
      for (const whether of [true, false]) {
        const those = (list: readonly string[]) =>
          list.filter((key) => moving.has(key) === whether);
        expect(those(found)).toEqual(those(keys));
      }
      if (place && !moving.has(place)) {
        const last = found.indexOf(place) - 1;
        if (moving.size) expect(moving.has(found[last]!)).toBe(true);
      }
    }),
  );
});

test("a page that is not there takes nothing", () => {
  expect(moveTo(BLANK, new Set(["a"]), { page: "gone", item: null })).toBe(BLANK);
});

test("a translation is missing, then there, then older, then confirmed", () => {
  const doc: Doc = { ...BLANK, languages: ["en", "es"] };
  const line = linesOf(doc)[0]!;
  const of = (now: Doc) => stateOf(linesOf(now)[0]!.text, "es", "en");
  expect(of(doc)).toBe("missing");
  const done = translated(doc, line.at, "es", "Palabras");
  expect([of(done), left(doc) - left(done)]).toEqual(["current", 1]);
  const reworded: Doc = { ...done, title: { ...done.title, en: "Other words" } };
  expect(of(reworded)).toBe("older");
  expect(of(translated(reworded, line.at, "es", "Palabras"))).toBe("current");
  expect(translated(done, line.at, "es", "")).toEqual(doc);
});

test("a translation leaves everything else the same object", () => {
  fc.assert(
    fc.property(drafts, at, (doc, pick) => {
      const lines = linesOf(doc);
      const line = lines[pick % Math.max(lines.length, 1)];
      if (!line) return;
      const next = translated(doc, line.at, "es", "x");
      const changed = everyItem(next).filter((item, number) => item !== everyItem(doc)[number]);
      expect(changed.length).toBeLessThanOrEqual(1);
      expect(linesOf(next).map((one) => one.at)).toEqual(lines.map((one) => one.at));
    }),
  );
});
