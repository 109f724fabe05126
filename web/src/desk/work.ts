/** Work under way, as the desk asks for it. */
import type { Schema } from "../client/client";

type Work = Schema<"WorkOut">;

export const hasEnded = (work: Work | undefined): boolean =>
  work?.state === "done" || work?.state === "failed";

/** Milliseconds between two looks at how far work is, until it has ended. */
const AGAIN = 500;

export const untilEnded = ({ state }: { state: { data?: Work | undefined } }): number | false =>
  hasEnded(state.data) ? false : AGAIN;
