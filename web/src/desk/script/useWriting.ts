/** A draft under the hands of somebody who writes, in whichever place: saved, undone, looked up. */
import { useRegions } from "./regions";
import { useConditionTools } from "./SavedConditions";
import { useDraft, type Joining } from "./useDraft";
import { useUndo } from "./useUndo";
import type { WritingProps } from "./WithDraft";

export function useWriting({ id, start }: WritingProps, onJoin: Joining) {
  const draft = useDraft(id, start, onJoin);
  const tools = useConditionTools(draft);
  useUndo(draft);
  useRegions();
  return { draft, tools };
}
