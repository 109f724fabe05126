/** The rules under edit: kept apart from those that are in force until they are applied. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";

import { ApiError, client, got, type Fault, type Schema } from "../../client/client";
import { dispatch as rulesOf } from "../data";
import type { Finding } from "../proof/Findings";
import { useRested } from "../useRested";
import type { Dispatch } from "./rules";

const CHECKED_AFTER = 350;

interface Checked {
  faults: readonly Fault[];
  /** What is likely not meant, and keeps nothing from being applied. */
  hints: readonly Finding[];
  /** The rules that can be used as they stand, once that is known. */
  usable: Dispatch | null;
}

/** What keeps the rules from being applied, as they are being written. */
function useChecked(id: string, rules: Dispatch, changed: boolean): Checked {
  const written = useRested(JSON.stringify(rules), CHECKED_AFTER);
  const read = useMemo(() => JSON.parse(written) as Dispatch, [written]);
  const checking = useQuery({
    queryKey: ["dispatch faults", id, written],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/dispatch/faults", {
          params: { path: { id } },
          body: { dispatch: { ...read } },
        }),
      ),
    enabled: changed,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { faults, hints } = checking.data ?? NONE;
  const known = checking.isSuccess && !checking.isPlaceholderData;
  return { faults, hints, usable: known && !faults.length ? read : null };
}

const NONE = { faults: [], hints: [] };

export function useRules(id: string, start: Schema<"DispatchOut">) {
  const queries = useQueryClient();
  const [kept, setKept] = useState(start);
  const [rules, setRules] = useState<Dispatch>(start.dispatch);
  const saving = useMutation({
    mutationFn: (revision: number) =>
      got(
        client.PUT("/api/questionnaires/{id}/dispatch", {
          params: { path: { id } },
          body: { revision, dispatch: rules },
        }),
      ),
    onSuccess: (saved) => {
      setKept(saved);
      setRules(saved.dispatch);
      queries.setQueryData(rulesOf(id).queryKey, saved);
    },
  });
  const changed = JSON.stringify(rules) !== JSON.stringify(kept.dispatch);
  const live = useChecked(id, rules, changed);
  const { faults, hints } = kept;
  const checked = changed ? live : { faults, hints, usable: faults.length ? null : kept.dispatch };
  return { kept, rules, setRules, saving, changed, ...checked };
}

/** The rules were saved by somebody else: both can be looked at, one is chosen. */
export function newer(error: Error | null): Schema<"DispatchBody"> | null {
  if (!(error instanceof ApiError) || error.code !== "stale") return null;
  const { revision, value } = error.params["current"] as {
    revision: number;
    value: Dispatch;
  };
  return { revision, dispatch: value };
}
