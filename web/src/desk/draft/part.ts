/** What every part of the script is given. */
import { createContext } from "react";

import type { Doc } from "../document";
import type { Spot } from "./edits";
import type { Draft } from "./useDraft";

/** A draft as it is read. */
export type DraftRead = Pick<Draft, "id" | "doc" | "revision" | "saving" | "faults">;

export interface ScriptPart {
  draft: Draft;
  spot: Spot;
  onSpot: (spot: Spot) => void;
}

/** The draft as it is now, for what has to follow every change of it. */
export const DraftNow = createContext<Doc | null>(null);

/** How the steps of typing the words of an item are named; the bench may follow those later. */
export const WORDING = "words ";

export const isAt = (spot: Spot, page: number, item: number | null): boolean =>
  spot.on === "page" && spot.page === page && spot.item === item;
