/** A round under edit: kept apart from the one that goes until it is applied. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { ROUNDS, roundQuery, saveRound, type Round, type RoundOut, type Step } from "./data";

export interface Editing {
  kept: RoundOut;
  round: Round;
  changed: boolean;
  saving: ReturnType<typeof useDoing<void, RoundOut>>;
  /** What is wrong at a place, as it was applied last. */
  faultAt: (at: string) => string | undefined;
  set: (change: Partial<Round>) => void;
  setStep: (key: string, change: Partial<Step>) => void;
  undo: () => void;
}

export function useRound(kept: RoundOut): Editing {
  const id = usePlaceId();
  const queries = useQueryClient();
  const [draft, setDraft] = useState<Round | null>(null);
  const [begunAt, setBegunAt] = useState(kept.revision);
  const round = draft ?? kept.round;
  const change = (next: Round) => {
    if (!draft) setBegunAt(kept.revision);
    setDraft(next);
  };
  const saving = useDoing(
    () => saveRound(id, kept.id, begunAt, round),
    [],
    (saved) => {
      queries.setQueryData(roundQuery(id, kept.id).queryKey, saved);
      void queries.invalidateQueries({ queryKey: ROUNDS(id) });
      setDraft(null);
    },
  );
  return {
    kept,
    round,
    changed: draft !== null,
    saving,
    faultAt: (at) => kept.faults.find((fault) => fault.at === at)?.message,
    set: (some) => change({ ...round, ...some }),
    setStep: (key, some) =>
      change({
        ...round,
        steps: (round.steps ?? []).map((one) => (one.key === key ? { ...one, ...some } : one)),
      }),
    undo: () => {
      setDraft(null);
      saving.reset();
    },
  };
}
