/** A draft under the hands of somebody who writes, in whichever place: saved, undone, looked up. */
import { useRegions } from "../draft/regions";
import { useConditionTools } from "./SavedConditions";
import { useDraft, type Joining } from "../draft/useDraft";
import { useUndo } from "../draft/useUndo";
import type { WritingProps } from "../draft/WithDraft";

export function useWriting({ id, start }: WritingProps, onJoin: Joining) {
  const draft = useDraft(id, start, onJoin);
  const tools = useConditionTools(draft);
  useUndo(draft);
  useRegions();
  return { draft, tools };
}
