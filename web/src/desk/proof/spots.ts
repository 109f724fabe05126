/** From the places that a proof speaks of to what can be selected, and to the marks on the map. */
import { inside, itemsOf, type Doc } from "../document";
import type { Spot } from "../draft/edits";
import type { Finding } from "./Findings";

export type Level = "wrong" | "advice";

/** What was found out about a place: how many things, and the worst of them. */
export interface Marked {
  count: number;
  level: Level;
}

/** What is selected for a place such as `pages/well/items/depth`; null where it is gone. */
export function spotAt(doc: Doc, at: string): Spot | null {
  const [kind, key, ...rest] = at.split("/");
  if (kind === "finishes") {
    const finish = doc.finishes.findIndex((one) => one.key === key);
    return finish < 0 ? null : { on: "finish", finish };
  }
  if (kind !== "pages") return { on: "front" };
  const page = doc.pages.findIndex((one) => one.key === key);
  const found = doc.pages[page];
  if (!found) return null;
  const item = rest[0] === "items" ? itemsOf(found).findIndex((one) => one.key === rest[1]) : -1;
  const outer = itemsOf(found)[item];
  if (!outer) return { on: "page", page, item: null };
  const inner = rest[2] === "items" ? inside(outer).findIndex((one) => one.key === rest[3]) : -1;
  return inner < 0 ? { on: "page", page, item } : { on: "page", page, item, inner };
}

/** How many findings there are at each stop, and at each rule; the worst level of them. */
export function marksOf(findings: readonly Finding[]): ReadonlyMap<string, Marked> {
  const marks = new Map<string, Marked>();
  const mark = (at: string, level: Marked["level"]) => {
    const known = marks.get(at);
    const worst = known?.level === "wrong" ? "wrong" : level;
    marks.set(at, { count: (known?.count ?? 0) + 1, level: worst });
  };
  for (const { at, level } of findings) {
    mark(at.split("/").slice(0, 2).join("/"), level);
    if (at.includes("/skips/")) mark(at, level);
  }
  return marks;
}
