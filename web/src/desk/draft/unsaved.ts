/** What could not be saved, kept in this browser until it can: closing the tab loses nothing. */
import type { Kept, State } from "./draftState";

const nameOf = (id: string) => `jotgate-draft-${id}`;

export function keepUnsaved(id: string, { revision, base, doc }: State): void {
  try {
    localStorage.setItem(nameOf(id), JSON.stringify({ revision, base, doc }));
  } catch {
    // Storage that is full or forbidden: the tab itself still holds the draft.
  }
}

export function forgetUnsaved(id: string): void {
  try {
    localStorage.removeItem(nameOf(id));
  } catch {
    // Nothing was kept.
  }
}

export function readUnsaved(id: string): Kept | null {
  try {
    return JSON.parse(localStorage.getItem(nameOf(id)) ?? "null") as Kept | null;
  } catch {
    return null;
  }
}
