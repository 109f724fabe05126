/** How the draft stands to what is saved, in words. */
import type { Saving } from "./draftState";

export const SAVING: Record<Saving, string> = {
  saved: "Saved",
  unsaved: "Not saved yet",
  saving: "Saving",
  away: "Not saved. Trying again.",
  refused: "Not saved",
  clash: "Not saved: somebody else saved",
};
