/** The fields of a draft on the screen: their ids, and going to them. */
import { flushSync } from "react-dom";

/** The id of the field that holds the introduction. */
export const INTRODUCTION = "introduction";

export const FIELD_KINDS = ["page", "item", "finish"] as const;

/** The id of the field that holds the words of an item, a page or a finish. */
export const fieldId = (on: (typeof FIELD_KINDS)[number], key: string): string => `${on}-${key}`;

/** The id of a control of an item: of one of its options or rows, by the code, or of a part. */
export const controlId = (item: string, ...parts: readonly string[]): string =>
  [fieldId("item", item), ...parts].join("/");

/** Go to a field: bring it into view, with the focus in it. */
export function goTo(id: string): void {
  const field = document.getElementById(id);
  field?.scrollIntoView({ block: "center" });
  field?.focus();
}

/** Make a change, draw it, and put the focus into a field of it before the next key comes. */
export function changeAndFocus(change: () => void, id: string): void {
  flushSync(change);
  document.getElementById(id)?.focus();
}
