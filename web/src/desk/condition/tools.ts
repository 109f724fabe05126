/** What the editor of conditions is given by the questionnaire around it. */
import { createContext } from "react";

import type { Condition } from "../document";
import type { Saved } from "../subjects";

export interface ConditionTools {
  /** The conditions that the questionnaire saves under names. */
  saved: readonly Saved[];
  /** Saves one under a name; what stands in its place then. */
  save: (name: string, when: Condition) => Condition;
}

/** Null where a condition belongs to no questionnaire that is being written. */
export const Tools = createContext<ConditionTools | null>(null);

const NAME = "jotgate condition";

/** The condition that was copied last, in this tab. */
export function copied(): Condition | null {
  try {
    return JSON.parse(window.sessionStorage.getItem(NAME) ?? "null") as Condition | null;
  } catch {
    return null;
  }
}

export function copy(condition: Condition): void {
  window.sessionStorage.setItem(NAME, JSON.stringify(condition));
}
