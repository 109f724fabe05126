/** What every part of the script is given. */
import { flushSync } from "react-dom";

import type { Spot } from "./edits";
import type { Draft } from "./useDraft";

export interface ScriptPart {
  draft: Draft;
  spot: Spot;
  onSpot: (spot: Spot) => void;
}

export const isAt = (spot: Spot, page: number, item: number | null): boolean =>
  spot.on === "page" && spot.page === page && spot.item === item;

/** The id of the field that holds the words of an item, a page or a finish. */
export const fieldId = (on: "page" | "item" | "finish", key: string): string => `${on}-${key}`;

/** Make a change, draw it, and put the focus into a field of it before the next key comes. */
export function changeAndFocus(change: () => void, id: string): void {
  flushSync(change);
  document.getElementById(id)?.focus();
}
