/** A change that the server is asked for, and what it makes out of date. */
import { useMutation, useQueryClient, type UseMutationResult } from "@tanstack/react-query";

import { ApiError } from "../client/client";

export function useDoing<Given = void, Result = unknown>(
  call: (given: Given) => Promise<Result>,
  changes: readonly (readonly unknown[])[] = [],
  then?: (result: Result) => void,
): UseMutationResult<Result, Error, Given> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: call,
    onSuccess: async (result) => {
      await Promise.all(changes.map((queryKey) => queries.invalidateQueries({ queryKey })));
      then?.(result);
    },
  });
}

/** What is wrong at one field of a form, and what at none of `shown`. */
export function faultAt(error: unknown, at: string): string | undefined {
  return error instanceof ApiError
    ? error.faults.find((fault) => fault.at === at)?.message
    : undefined;
}

export function otherFault(error: Error | null, shown: readonly string[]): string | null {
  if (!error) return null;
  const faults = error instanceof ApiError ? error.faults : [];
  if (!faults.length) return error.message;
  const others = faults.filter(({ at }) => !shown.includes(at));
  return others.length ? others.map(({ message }) => message).join(" ") : null;
}
