/** Answers on this device, for as long as the tab is open: a reload loses nothing. */
import { randomHex } from "../../client/random";
import { keptAs } from "../address";
import type { Answers } from "../visit";

export interface TabDraft {
  answers: Answers;
  page: string;
  /** The question one was at, where they are asked one by one. */
  at?: string;
  edition: number;
  /** Names this submission, however often it is sent. */
  submission: string;
}

const name = `jotgate ${keptAs}`;

/** A name for a new submission. */
export function newSubmission(): string {
  return randomHex(16);
}

export function readTabDraft(): TabDraft | null {
  try {
    const text = window.sessionStorage.getItem(name);
    return text ? (JSON.parse(text) as TabDraft) : null;
  } catch {
    return null;
  }
}

export function writeTabDraft(kept: TabDraft): void {
  try {
    window.sessionStorage.setItem(name, JSON.stringify(kept));
  } catch {
    // Storage is off or full: the answers still stand in the page.
  }
}

export function clearTabDraft(): void {
  try {
    window.sessionStorage.removeItem(name);
  } catch {
    // Nothing was kept.
  }
}
