/** Carried values in words: where they come from, and what a visitor sees of them. */
import type { Schema } from "../client/client";
import { say, type Doc, type Item } from "./document";

export type Carried = Schema<"Carried">;
export type Source = NonNullable<Carried["sources"]>[number];

export const PLAIN: readonly Source[] = [{ kind: "link" }];

export const SOURCES: Record<Source["kind"], string> = {
  link: "the link",
  pass: "a pass or a named link",
  contact: "the contact",
  claim: "the sign-in",
  hand_off: "another questionnaire",
  page: "the page that the link stood on",
  moment: "the moment of arrival",
  edition: "the edition",
  constant: "a constant",
};

export const sourcesOf = (item: Carried): readonly Source[] => item.sources ?? PLAIN;

export const isCarried = (item: Item): item is Carried => item.kind === "carried";

/** Whether the visitor may have to answer it. */
export const canBeAsked = (item: Carried): boolean =>
  item.shown === "changeable" || item.when_wrong === "ask";

/** Whether a page may show it. */
export const isSeen = (item: Carried): boolean => canBeAsked(item) || item.shown === "locked";

/** Whether it counts from the start, whatever page it lies on. */
export const arrives = (item: Carried): boolean => !item.shown_when && !canBeAsked(item);

function sourceWords(source: Source): string {
  switch (source.kind) {
    case "contact":
      return `the contact’s ${source.field?.replaceAll("_", " ") || "…"}`;
    case "claim":
      return `the claim ${source.claim || "…"} of the sign-in`;
    case "constant":
      return `always ${source.value || "…"}`;
    default:
      return SOURCES[source.kind];
  }
}

/** Where a carried value comes from, such as "From a pass or a named link, else from the link". */
export function cameFrom(item: Carried): string {
  const [first, ...others] = sourcesOf(item);
  if (!first) return "Set by a finish";
  if (first.kind === "constant") return `Always ${first.value || "…"}`;
  const rest = others.map((one) =>
    one.kind === "constant" ? `, else ${sourceWords(one)}` : `, else from ${sourceWords(one)}`,
  );
  return `From ${sourceWords(first)}${rest.join("")}`;
}

/** What the visitor sees of it. */
export function shownAs(item: Carried): string {
  if (item.shown === "changeable") return "Shown, to be changed";
  const asked = item.when_wrong === "ask" ? ", asked where none comes" : "";
  return item.shown === "locked" ? `Shown locked${asked}` : `Never shown${asked}`;
}

/** What an entry is about, as its name reads to staff. */
export const aboutWords = (doc: Doc, item: Carried): string =>
  item.about ? say(doc, item.about.name) || "its own words" : "";
