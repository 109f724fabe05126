/** What the browser finds, in the words that the server would use. */
import type { Fault } from "../client/client";
import type { Item } from "../items/answer";
import type { Failure } from "../items/instant";
import { day, moment, number, plural } from "../items/readable";
import { fill, type Words } from "../items/words";
import type { Page } from "./visit";

const DAY = /^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2})?$/;
const DECIMAL = /^-?\d+(\.\d+)?$/;

/** A limit as people read it: numbers, days and moments in their form, everything else as it is. */
function said(limit: string | number, language: string): string | number {
  if (typeof limit === "number") return limit;
  if (DECIMAL.test(limit)) return number(limit, language);
  if (!DAY.test(limit)) return limit;
  return limit.includes("T") ? moment(limit, language) : day(limit, language);
}

/** The message of a failure, in the plural form of its limit where it has one of its own. */
function messageOf({ code, params }: Failure, { failures, language }: Words): string {
  const limit = params?.["limit"];
  const form = typeof limit === "number" ? plural(limit, language) : "";
  return failures[`${code}.${form}`] ?? failures[code] ?? "";
}

export function faultOf(item: Item, at: string, failure: Failure, words: Words): Fault {
  const params = Object.fromEntries(
    Object.entries(failure.params ?? {}).map(([name, limit]) => [
      name,
      said(limit, words.language),
    ]),
  );
  const message = item.error_text || fill(messageOf(failure, words), params);
  return { code: failure.code, at, message, params };
}

/**
 * The places whose failures are wanted once `place` was left: itself, and where it is held
 * against others, those of them that stand on the page.
 */
export function placesOf(page: Page, key: string, place: string): string[] {
  const others = page.checked.includes(key) ? page.checked : [];
  const inside = place.includes("/") ? siblings(page, place) : [];
  return [...new Set([place, ...others, ...inside])];
}

/** The other questions of the same entry of a roster. */
function siblings(page: Page, place: string): string[] {
  const [key = "", ...steps] = place.split("/");
  const roster = page.items.find((item) => item.key === key && item.kind === "roster");
  return (roster?.items ?? []).map((item) => `${key}/${steps[0] ?? ""}/${item.key}`);
}
