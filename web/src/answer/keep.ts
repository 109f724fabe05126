/** Answers on this device, for as long as the tab is open: a reload loses nothing. */
import type { Answers } from "./visit";

export interface Kept {
  answers: Answers;
  page: string;
  edition: number;
  /** Names this submission, however often it is sent. */
  submission: string;
}

const name = `jotgate ${window.location.pathname}${window.location.search}`;

/** A name for a new submission, at random; also where the page did not come over HTTPS. */
export function newSubmission(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}

export function recall(): Kept | null {
  try {
    const text = window.sessionStorage.getItem(name);
    return text ? (JSON.parse(text) as Kept) : null;
  } catch {
    return null;
  }
}

export function keep(kept: Kept): void {
  try {
    window.sessionStorage.setItem(name, JSON.stringify(kept));
  } catch {
    // Storage is off or full: the answers still stand in the page.
  }
}

export function forget(): void {
  try {
    window.sessionStorage.removeItem(name);
  } catch {
    // Nothing was kept.
  }
}
