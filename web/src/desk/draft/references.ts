/** What refers to an item by its key, and a draft without that. */
import {
  inside,
  itemsOf,
  say,
  withInside,
  type Condition,
  type Doc,
  type Item,
  type Page,
} from "../document";
import type { Schema } from "../../client/client";
import { LISTING, NAMING } from "./rename";

/** Something that refers to an item: where it stands, in words, and the key to go to. */
export interface Use {
  says: string;
  on: "page" | "item" | "finish" | "front";
  key: string;
}

/** The keys that a part of a document names. */
function namesIn(part: unknown, found = new Set<string>()): Set<string> {
  if (Array.isArray(part)) for (const one of part) namesIn(one, found);
  else if (typeof part === "object" && part !== null) {
    for (const [name, value] of Object.entries(part) as [string, unknown][]) {
      if (NAMING.has(name) && typeof value === "string") found.add(value);
      else if (LISTING.has(name) && Array.isArray(value))
        value.forEach((one) => found.add(String(one)));
      else if (name === "points") Object.keys(value as object).forEach((key) => found.add(key));
      else namesIn(value, found);
    }
    if ("noun" in part && "title" in part) slotsIn(part.title, found);
  }
  return found;
}

function slotsIn(text: unknown, found: Set<string>): void {
  for (const words of Object.values((text ?? {}) as Record<string, string>)) {
    for (const [, key] of words.matchAll(/\{([a-z][a-z0-9_]*)\}/g)) if (key) found.add(key);
  }
}

/** What each part of a document names, found once: a part that changes is another object. */
const named = new WeakMap<object, ReadonlySet<string>>();

function namesOf(part: object): ReadonlySet<string> {
  const found = named.get(part) ?? namesIn(part);
  named.set(part, found);
  return found;
}

/** Everything outside of `keys` that refers to one of them, in reading order. */
export function usedBy(doc: Doc, keys: ReadonlySet<string>): Use[] {
  const names = (part: object | null | undefined) =>
    part ? [...namesOf(part)].some((key) => keys.has(key)) : false;
  const uses: Use[] = [];
  for (const [number, page] of doc.pages.entries()) {
    const at = { on: "page", key: page.key } as const;
    const title = `Page ${number + 1} ${say(doc, page.title)}`.trim();
    if (names(page.shown_when)) uses.push({ ...at, says: `${title}: when it is shown` });
    for (const item of itemsOf(page)) {
      const itself = inside(item).length ? withInside(item, []) : item;
      for (const one of [itself, ...inside(item)]) {
        if (keys.has(one.key) || keys.has(item.key) || !names(one)) continue;
        uses.push({ on: "item", key: one.key, says: `${one.key}: ${say(doc, one.text)}`.trim() });
      }
    }
    if (names(page.checks)) uses.push({ ...at, says: `${title}: a check across answers` });
    if (names(page.skips)) uses.push({ ...at, says: `${title}: a skip rule` });
  }
  for (const { key, name, when: said } of doc.saved ?? []) {
    if (names(said)) uses.push({ on: "front", key, says: `The saved condition ${name || key}` });
  }
  for (const finish of doc.finishes) {
    const sets = Object.keys(finish.sets ?? {});
    const said = new Set(sets);
    slotsIn(finish.message, said);
    slotsIn({ address: finish.link?.address ?? "" }, said);
    if ([...keys].some((key) => said.has(key)))
      uses.push({ on: "finish", key: finish.key, says: `Finish ${say(doc, finish.title)}` });
  }
  return uses;
}

/** Whether what a rule does speaks of one of `keys`: names it, or has a slot for it. */
function speaksOf(part: unknown, keys: ReadonlySet<string>): boolean {
  if (typeof part === "string")
    return keys.has(part) || [...keys].some((key) => part.includes(`{${key}}`));
  if (typeof part !== "object" || part === null) return false;
  return Object.values(part).some((one) => speaksOf(one, keys));
}

/** The dispatch rules that speak of one of `keys`, in words; they go by the published edition. */
export function rulesUsing(dispatch: Schema<"Dispatch">, keys: ReadonlySet<string>): string[] {
  const rules = (dispatch.rules ?? []).flatMap(({ when, acts }, number) => [
    ...([...(when ? namesOf(when) : [])].some((key) => keys.has(key))
      ? [`Dispatch, rule ${number + 1}: its condition`]
      : []),
    ...(speaksOf(acts, keys) ? [`Dispatch, rule ${number + 1}: what it does`] : []),
  ]);
  return speaksOf(dispatch.otherwise, keys)
    ? [...rules, "Dispatch: what is done otherwise"]
    : rules;
}

/** A condition without comparisons of `keys`; null where nothing of it is left. */
function pruned(condition: Condition, keys: ReadonlySet<string>): Condition | null {
  if (condition.op === "saved") return condition;
  if ("item" in condition) {
    if (keys.has(condition.item)) return null;
    if (!("where" in condition) || !condition.where) return condition;
    const where = pruned(condition.where, keys);
    if (where) return { ...condition, where };
    return condition.op === "entry_count" ? { ...condition, where } : null;
  }
  if (condition.op === "not") {
    const part = pruned(condition.part, keys);
    return part && { op: "not", part };
  }
  const parts = condition.parts.map((part) => pruned(part, keys)).filter((part) => part !== null);
  const [only, ...others] = parts;
  if (!only) return null;
  return others.length ? { op: condition.op, parts: [only, ...others] } : only;
}

type Conditioned = { shown_when?: Condition | null; required_when?: Condition | null };

function when<T extends Conditioned>(part: T, keys: ReadonlySet<string>): T {
  const { shown_when: shown, required_when: required } = part;
  return {
    ...part,
    ...(shown ? { shown_when: pruned(shown, keys) } : {}),
    ...(required ? { required_when: pruned(required, keys) } : {}),
  };
}

type Checks = NonNullable<Page["checks"]>;

function checked(checks: Checks, keys: ReadonlySet<string>): Checks {
  return checks
    .filter(({ left, right }) => !keys.has(left) && !(right && keys.has(right)))
    .map((check) => (check.when ? { ...check, when: pruned(check.when, keys) } : check));
}

function without(item: Item, keys: ReadonlySet<string>): Item {
  const next: Item = when({ ...item }, keys);
  if ("options" in next) next.options = (next.options ?? []).map((one) => when(one, keys));
  if (next.kind === "grid") {
    next.rows = (next.rows ?? []).map((one) => when(one, keys));
    next.totals = (next.totals ?? []).filter((key) => !keys.has(key));
  }
  if (next.kind === "roster") next.checks = checked(next.checks ?? [], keys);
  if (next.kind === "computed") next.formula = formula(next.formula, keys);
  return withInside(
    next,
    inside(next).map((one) => without(one, keys)),
  );
}

type Formula = Extract<Item, { kind: "computed" }>["formula"];

/** A formula without `keys`, as far as it can do without them. */
function formula(whole: Formula, keys: ReadonlySet<string>): Formula {
  if (whole.do === "difference") return whole;
  if (whole.do === "score") {
    const points = Object.entries(whole.points).filter(([key]) => !keys.has(key));
    return points.length ? { ...whole, points: Object.fromEntries(points) } : whole;
  }
  const [first, ...others] = whole.of.filter((key) => !keys.has(key));
  return first === undefined ? whole : { ...whole, of: [first, ...others] };
}

/** The draft with every condition, check and rule about `keys` gone. */
export function withoutUses(doc: Doc, keys: ReadonlySet<string>): Doc {
  const pages = doc.pages.map((page) => ({
    ...when(page, keys),
    items: itemsOf(page).map((item) => without(item, keys)),
    checks: checked(page.checks ?? [], keys),
    skips: (page.skips ?? []).flatMap((skip) => {
      const left = pruned(skip.when, keys);
      return left ? [{ ...skip, when: left }] : [];
    }),
  }));
  return withoutSaved({ ...doc, pages }, keys);
}

/** Saved conditions and finishes without `keys`; a saved condition of nothing else goes whole. */
function withoutSaved(doc: Doc, keys: ReadonlySet<string>): Doc {
  const saved = (doc.saved ?? []).flatMap((one) => {
    const left = pruned(one.when, keys);
    return left ? [{ ...one, when: left }] : [];
  });
  const finishes = doc.finishes.map((finish) => ({
    ...finish,
    sets: Object.fromEntries(Object.entries(finish.sets ?? {}).filter(([key]) => !keys.has(key))),
  }));
  return { ...doc, saved, finishes };
}

/** The keys of an item and of what is inside of it. */
export function keysWithin(item: Item): Set<string> {
  return new Set([item, ...inside(item)].map(({ key }) => key));
}

export function keysOn(page: Page): Set<string> {
  return new Set(itemsOf(page).flatMap((item) => [...keysWithin(item)]));
}
