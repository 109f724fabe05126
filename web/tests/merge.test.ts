/** Two versions of a draft brought together: nothing is lost, and what clashes is told. */
import { dequal } from "dequal";
import * as fc from "fast-check";
import { expect, test } from "vitest";

import { everyItem, everyKeyed, itemsOf, type Doc, type Item } from "../src/desk/document";
import { reduce, start, type Event, type State } from "../src/desk/draft/draftState";
import * as edits from "../src/desk/draft/edits";
import { merge } from "../src/desk/draft/merge/merge";
import { order } from "../src/desk/draft/merge/order";
import { renamesOfBoth } from "../src/desk/draft/merge/renames";
import { shared } from "../src/desk/draft/merge/shared";
import { renameKey, settleKey } from "../src/desk/draft/rename";
import { anyEdit, BLANK, type Edit } from "./anyEdit";

const done = (doc: Doc, changes: readonly Edit[]) => changes.reduce((now, edit) => edit(now), doc);
const some = fc.array(anyEdit, { maxLength: 12 });
const text = (key: string, words: string): Item => ({
  kind: "short_text",
  key,
  text: { en: words },
});
const page = (key: string, ...items: Item[]) => ({ key, title: { en: key }, items, skips: [] });
const draft = (...pages: Doc["pages"]): Doc => ({ ...BLANK, pages });
const said = (doc: Doc, key: string, words: string): Doc => ({
  ...doc,
  pages: doc.pages.map((one) => ({
    ...one,
    items: itemsOf(one).map((item) => (item.key === key ? { ...item, text: { en: words } } : item)),
  })),
});
const shape = (doc: Doc) =>
  doc.pages.map((one) =>
    itemsOf(one)
      .map(({ key }) => key)
      .join(" "),
  );

test("where only one changed anything, the draft is theirs or mine", () => {
  fc.assert(
    fc.property(some, some, (before, changes) => {
      const base = done(BLANK, before);
      const next = done(base, changes);
      expect(merge(base, next, base)).toEqual({ doc: next, clashes: [], renamed: new Map() });
      expect(merge(base, base, next).doc).toEqual(next);
      expect(merge(base, base, next).clashes).toEqual([]);
    }),
  );
});

test("whatever both do, keys stay unique, and what neither took out is there once", () => {
  fc.assert(
    fc.property(some, some, some, (before, edited, changed) => {
      const base = done(BLANK, before);
      const [mine, theirs] = [done(base, edited), done(base, changed)];
      const { doc, renamed } = merge(base, mine, theirs);
      const keys = everyKeyed(doc).map(({ key }) => key);
      expect(new Set(keys).size).toBe(keys.length);
      const known = new Set(everyItem(base).map(({ key }) => key));
      const added = (one: Doc) => everyItem(one).filter(({ key }) => !known.has(key));
      const [ours, others] = renamesOfBoth(base, mine, theirs);
      const twice = [...ours].filter(([before]) => others.has(before));
      const given = new Set(twice.flatMap(([before, after]) => [after, others.get(before)]));
      for (const { key } of [...added(theirs), ...added(mine)]) {
        if (!given.has(key)) expect(keys).toContain(renamed.get(key) ?? key);
      }
      for (const [, after] of twice) expect(keys).toContain(renamed.get(after) ?? after);
    }),
    { numRuns: 1000 },
  );
});

test("what both changed is told, and each choice gives that version", () => {
  const base = draft(page("p", text("a", "A"), text("b", "B")));
  const mine = said(said(base, "a", "Mine"), "b", "Also mine");
  const theirs = said(base, "a", "Theirs");
  const { doc, clashes } = merge(base, mine, theirs);
  expect(clashes).toEqual([{ path: "items/a/text/en", mine: "Mine", theirs: "Theirs" }]);
  expect(doc).toEqual(mine);
  expect(merge(base, mine, theirs, () => "theirs").doc).toEqual(said(theirs, "b", "Also mine"));
});

test("two new questions under one key are both there, with the rules of each", () => {
  const base = draft(page("p", text("a", "A")));
  const mine = edits.addItem(base, 0, 1, text("question", "Mine"));
  const ruled: Item = { ...text("c", "C"), shown_when: { op: "answered", item: "question" } };
  const { doc, clashes, renamed } = merge(
    base,
    edits.addItem(mine, 0, 2, ruled),
    edits.addItem(base, 0, 1, text("question", "Theirs")),
  );
  expect(clashes).toEqual([]);
  expect(renamed).toEqual(new Map([["question", "question_2"]]));
  expect(shape(doc)).toEqual(["a question_2 c question"]);
  expect(everyItem(doc)[2]?.shown_when).toEqual({ op: "answered", item: "question_2" });
});

test("moved by one and reworded by the other is both", () => {
  const base = draft(page("p", text("a", "A"), text("b", "B")), page("q"));
  const moved = edits.moveItem(base, 0, 1, 1)![0];
  const { doc, clashes } = merge(base, moved, said(base, "b", "Better"));
  expect(clashes).toEqual([]);
  expect(doc).toEqual(said(moved, "b", "Better"));
});

test("moved by both to different pages is a clash, and the item stands once", () => {
  const base = draft(page("p", text("a", "A")), page("q"), page("r"));
  const to = (number: number) =>
    edits.addItem(edits.removeItem(base, 0, 0), number, 0, text("a", "A"));
  const { doc, clashes } = merge(base, to(1), to(2));
  expect(clashes).toEqual([{ path: "items/a/page", mine: "q", theirs: "r" }]);
  expect(shape(doc)).toEqual(["", "a", ""]);
  expect(shape(merge(base, to(1), to(2), () => "theirs").doc)).toEqual(["", "", "a"]);
});

test("deleted by one and changed by the other stays until somebody decides", () => {
  const base = draft(page("p", text("a", "A"), text("b", "B"), text("c", "C")));
  const without = edits.removeItem(base, 0, 1);
  const changed = said(base, "b", "Better");
  for (const [mine, theirs, gone] of [
    [without, changed, "mine"],
    [changed, without, "theirs"],
  ] as const) {
    const { doc, clashes } = merge(base, mine, theirs);
    expect(clashes.map(({ path }) => path)).toEqual(["items/b"]);
    expect(doc).toEqual(changed);
    expect(merge(base, mine, theirs, () => gone).doc).toEqual(without);
  }
});

test("an item on a page that the other deleted is not lost", () => {
  const base = draft(page("p", text("a", "A")), page("q", text("b", "B")));
  const mine = edits.addItem(base, 1, 1, text("c", "C"));
  const { doc } = merge(base, mine, edits.removePage(base, 1));
  expect(shape(doc)).toEqual(["a c"]);
});

test("options of both are kept, a code that both took is made unique", () => {
  const pick = (...labels: [string, string][]): Item => ({
    kind: "pick_one",
    key: "a",
    text: { en: "A" },
    options: labels.map(([code, label]) => ({ code, label: { en: label } })),
  });
  const base = draft(page("p", pick(["x", "X"])));
  const { doc, clashes } = merge(
    base,
    draft(page("p", pick(["x", "X"], ["option", "Mine"]))),
    draft(page("p", pick(["x", "Better"], ["option", "Theirs"]))),
  );
  expect(clashes).toEqual([]);
  expect(everyItem(doc)[0]).toMatchObject({
    options: [
      { code: "x", label: { en: "Better" } },
      { code: "option_2", label: { en: "Mine" } },
      { code: "option", label: { en: "Theirs" } },
    ],
  });
});

test("a kind changed by one and limits by the other do not mix", () => {
  const base = draft(page("p", { kind: "number", key: "a", text: { en: "A" }, decimals: 0 }));
  const mine = edits.changeItem(base, { on: "page", page: 0, item: 0 }, (one) =>
    edits.asKind(one, "date"),
  );
  const theirs = edits.changeItem(
    base,
    { on: "page", page: 0, item: 0 },
    (one) => ({ ...one, decimals: 2 }) as Item,
  );
  const { clashes } = merge(base, mine, theirs);
  expect(clashes.map(({ path }) => path)).toEqual(["items/a"]);
});

test("orders: moves stay, additions stand behind what they stood behind", () => {
  expect(order(["a", "b", "c"], ["c", "a", "b"], ["a", "x", "b", "c"])).toEqual([
    "c",
    "a",
    "x",
    "b",
  ]);
  expect(order(["a", "b"], ["y", "a", "b"], ["b", "a"])).toEqual(["y", "b", "a"]);
  expect(order(["a", "b", "c"], ["a", "c"], ["a", "b", "c", "d"])).toEqual(["a", "c", "d"]);
});

test("what did not change is the same object still", () => {
  fc.assert(
    fc.property(some, some, (before, changes) => {
      const now = done(BLANK, before);
      const next = JSON.parse(JSON.stringify(done(now, changes))) as Doc;
      const kept = shared(now, next);
      expect(kept).toEqual(next);
      if (dequal(now, next)) expect(kept).toBe(now);
    }),
  );
  const base = draft(page("p", text("a", "A")), page("q", text("b", "B")));
  const copy = JSON.parse(JSON.stringify(said(base, "b", "C"))) as Doc;
  expect(shared(base, copy).pages[0]).toBe(base.pages[0]);
});

/** A draft as the server gives it: with every member that the browser leaves out. */
function canonical(doc: Doc): Doc {
  const items = (list: readonly Item[]) =>
    list.map((item) => ({ help: {}, required: false, shown_when: null, ...item }) as Item);
  const pages = doc.pages.map((one) => ({ checks: [], ...one, items: items(itemsOf(one)) }));
  return JSON.parse(JSON.stringify({ ...doc, pages })) as Doc;
}

/** Two people and a server, step by step: each writes, settles keys, saves or looks. */
class Two {
  revision = 1;
  document = canonical(BLANK);
  count = 0;
  /** The key of the question that each is in. */
  open = ["", ""];
  people: State[] = [0, 1].map(() =>
    start({ ...this.reply(), faults: [], depending: { items: {}, finish: [], freed: [] } }),
  );

  reply() {
    return { revision: this.revision, document: canonical(this.document) };
  }

  save(who: number): void {
    const state = this.people[who]!;
    if (state.saving === "saved") return;
    if (state.revision !== this.revision) {
      this.send(who, { kind: "theirs", theirs: this.reply() });
      return;
    }
    this.revision += 1;
    this.document = state.doc;
    this.send(who, {
      kind: "saved",
      reply: { ...this.reply(), faults: [], depending: { items: {}, finish: [], freed: [] } },
      sent: state.doc,
    });
  }

  look(who: number): void {
    if (this.people[who]!.saving === "saved")
      this.send(who, { kind: "theirs", theirs: this.reply() });
  }

  write(who: number, place: number, settles: boolean): void {
    const { doc } = this.people[who]!;
    const items = itemsOf(doc.pages[0]!);
    const above = items[place % Math.max(items.length, 1)];
    const at = above ? items.indexOf(above) + 1 : 0;
    const settled = above && settles ? settleKey(doc, above.key) : doc;
    const left = settleKey(settled, this.open[who]!);
    const made = edits.newItem(settled, "short_text");
    this.open[who] = made.key;
    this.send(who, { kind: "edit", doc: edits.addItem(left, 0, at, made), step: "" });
  }

  /** Words for the question that one has just begun, if it has none yet. */
  type(who: number): void {
    const { doc } = this.people[who]!;
    const key = this.open[who];
    const item = everyItem(doc).find((one) => one.key === key);
    if (!item || item.text["en"]) return;
    this.count += 1;
    const next = said(doc, item.key, `Bird ${this.count}`);
    this.send(who, { kind: "edit", doc: next, step: `words ${key}` });
  }

  private send(who: number, event: Event): void {
    const next = reduce(this.people[who]!, event);
    this.people[who] = next;
    this.open[who] = next.renamed.get(this.open[who]!) ?? this.open[who]!;
    if (next.saving === "clash") throw new Error("They clash, though each wrote their own.");
  }
}

test("two people who write at once come to the same draft, with everything in it", () => {
  const step = fc.tuple(
    fc.nat(1),
    fc.constantFrom("save", "look", "write", "type", "type"),
    fc.nat(30),
    fc.boolean(),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const two = new Two();
      for (const [who, what, place, settles] of steps) {
        if (what === "write") two.write(who, place, settles);
        else two[what](who);
      }
      for (const who of [0, 1, 0, 1, 0, 1]) {
        two.save(who);
        two.look(who);
      }
      const [one, other] = two.people;
      expect([one!.saving, other!.saving]).toEqual(["saved", "saved"]);
      expect(one!.doc).toEqual(other!.doc);
      const words = everyItem(one!.doc).flatMap(({ text: said }) => said["en"] || []);
      expect(words).toHaveLength(two.count);
      expect(new Set(words).size).toBe(two.count);
    }),
    { numRuns: 500 },
  );
});

test("a key renamed by one is the same item, reworded by the other", () => {
  const base = draft(page("p", text("a", "A"), text("b", "B")));
  const ruled = edits.changePage(base, 0, (one) => ({
    ...one,
    shown_when: { op: "answered", item: "a" },
  }));
  const [renamed, reworded] = [renameKey(ruled, "a", "z"), said(ruled, "a", "Better")];
  const wanted = said(renamed, "z", "Better");
  expect(merge(ruled, renamed, reworded)).toEqual({ doc: wanted, clashes: [], renamed: new Map() });
  const other = merge(ruled, reworded, renamed);
  expect(other).toEqual({ doc: wanted, clashes: [], renamed: new Map([["a", "z"]]) });
});

test("a key given by one and taken anew by the other is made unique", () => {
  const base = draft(page("p", text("question", "")));
  const mine = renameKey(said(base, "question", "Bird"), "question", "bird");
  const { doc, clashes, renamed } = merge(base, mine, edits.addItem(base, 0, 1, text("bird", "B")));
  expect(clashes).toEqual([]);
  expect(shape(doc)).toEqual(["bird_2 bird"]);
  expect(renamed).toEqual(new Map([["bird", "bird_2"]]));
});

test("a question that was given its key while another was added behind it is the same still", () => {
  const base = draft(page("p", text("question_1abc", "Bird")));
  const named = renameKey(base, "question_1abc", "bird");
  const theirs = edits.addItem(named, 0, 1, text("question_2xyz", "Gull"));
  const mine = said(base, "question_1abc", "Bird now");
  const { doc, clashes, renamed } = merge(base, mine, theirs);
  expect(clashes).toEqual([]);
  expect(shape(doc)).toEqual(["bird question_2xyz"]);
  expect(renamed).toEqual(new Map([["question_1abc", "bird"]]));
});

test("a first wording by both, which gives the question its key, is one clash", () => {
  const base = draft(page("p", text("question", "")));
  const mine = renameKey(said(base, "question", "Which bird"), "question", "which_bird");
  const theirs = renameKey(said(base, "question", "Which gull"), "question", "which_gull");
  const { doc, clashes } = merge(base, mine, theirs);
  expect(clashes.map(({ path }) => path)).toEqual(["items/question/text/en"]);
  expect(doc).toEqual(mine);
});
