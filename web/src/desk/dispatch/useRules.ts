/** The rules under edit: kept apart from those that are in force until they are applied. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ApiError, client, got, type Fault, type Schema } from "../../client/client";
import { dispatch as rulesOf } from "../data";
import { useRested } from "../useRested";
import type { Dispatch } from "./rules";

const CHECKED_AFTER = 350;

/** What keeps the rules from being applied, as they are being written. */
function useFaults(id: string, rules: Dispatch, changed: boolean): readonly Fault[] {
  const written = useRested(JSON.stringify(rules), CHECKED_AFTER);
  const checking = useQuery({
    queryKey: ["dispatch faults", id, written],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/dispatch/faults", {
          params: { path: { id } },
          body: { dispatch: JSON.parse(written) as Dispatch },
        }),
      ),
    enabled: changed,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { error } = checking;
  if (error instanceof ApiError && error.faults.length) return placed(error.faults, rules);
  return checking.data ?? [];
}

/** Faults of what could not be read at all, by the keys of rules in place of their positions. */
export function placed(faults: readonly Fault[], rules: Dispatch): Fault[] {
  return faults.map((fault) => {
    const [, number, rest = ""] = /rules\/(\d+)(.*)$/.exec(fault.at) ?? [];
    const key = number === undefined ? undefined : rules.rules?.[Number(number)]?.key;
    if (key) return { ...fault, at: `rules/${key}${rest}` };
    return fault.at.includes("otherwise") ? { ...fault, at: "otherwise" } : fault;
  });
}

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
  const live = useFaults(id, rules, changed);
  return { kept, rules, setRules, saving, changed, faults: changed ? live : kept.faults };
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
