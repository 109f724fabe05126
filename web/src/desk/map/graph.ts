/** The questionnaire as a graph: pages and finishes, and the ways between them. */
import { isQuestion, itemsOf, say, type Doc } from "../document";
import { subjectsOf } from "../subjects";
import { sentence } from "../condition/words";

export interface Rule {
  says: string;
  to: string;
}

/** A page or a finish. `rules` are what stands on a page's card, each the start of a way. */
export interface Stop {
  at: string;
  title: string;
  detail: string;
  condition: string;
  rules: readonly Rule[];
  end: boolean;
}

/** A way from one stop to another: by a rule of the page, from 1, or straight on as null. */
export interface Way {
  id: string;
  from: string;
  to: string;
  rule: number | null;
}

export interface Graph {
  stops: readonly Stop[];
  ways: readonly Way[];
}

export const pageAt = (key: string) => `pages/${key}`;
export const finishAt = (key: string) => `finishes/${key}`;

export const wayId = (from: string, rule: number | null) => `${from} ${rule ?? "on"}`;

export function graphOf(doc: Doc): Graph {
  const stops: Stop[] = [];
  const ways: Way[] = [];
  doc.pages.forEach((page, number) => {
    const at = pageAt(page.key);
    const asked = itemsOf(page).filter(isQuestion).length;
    const rules = (page.skips ?? []).map(({ when, to }) => ({
      says: sentence(when, subjectsOf(doc, when)),
      to: to.kind === "page" ? pageAt(to.page) : finishAt(to.finish),
    }));
    stops.push({
      at,
      title: `${number + 1} ${say(doc, page.title) || "Untitled"}`,
      detail: asked === 1 ? "1 question" : `${asked} questions`,
      condition: page.shown_when ? sentence(page.shown_when, subjectsOf(doc, page.shown_when)) : "",
      rules,
      end: false,
    });
    rules.forEach(({ to }, rule) =>
      ways.push({ id: wayId(at, rule + 1), from: at, to, rule: rule + 1 }),
    );
    const next = doc.pages[number + 1];
    const first = doc.finishes[0];
    const on = next ? pageAt(next.key) : first && finishAt(first.key);
    if (on) ways.push({ id: wayId(at, null), from: at, to: on, rule: null });
  });
  for (const [number, finish] of doc.finishes.entries()) {
    stops.push({
      at: finishAt(finish.key),
      title: say(doc, finish.title) || "Untitled",
      detail: number === 0 ? "where everybody ends by default" : "finish",
      condition: "",
      rules: [],
      end: true,
    });
  }
  const known = new Set(stops.map(({ at }) => at));
  return { stops, ways: ways.filter(({ to }) => known.has(to)) };
}

/** The stops and ways that a walk takes; pages passed over lie on its way but are not stops. */
export function litBy(
  doc: Doc,
  walk: { pages: readonly string[]; rules: readonly (number | null)[]; finish: string | null },
): ReadonlySet<string> {
  const lit = new Set<string>();
  const keys = doc.pages.map(({ key }) => key);
  walk.pages.forEach((key, step) => {
    lit.add(pageAt(key));
    const next = walk.pages[step + 1];
    if (next === undefined && walk.finish === null) return;
    const rule = walk.rules[step] ?? null;
    lit.add(wayId(pageAt(key), rule));
    const skip = rule ? doc.pages[keys.indexOf(key)]?.skips?.[rule - 1] : undefined;
    const start = rule
      ? skip?.to.kind === "page"
        ? keys.indexOf(skip.to.page)
        : keys.length
      : keys.indexOf(key) + 1;
    const end = next === undefined ? keys.length : keys.indexOf(next);
    for (const passed of keys.slice(start, end)) lit.add(wayId(pageAt(passed), null));
  });
  if (walk.finish !== null) lit.add(finishAt(walk.finish));
  return lit;
}
