/** Where the rules lead, proved anew after each change that can be used. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";
import type { Finding } from "../proof/Findings";
import type { Dispatch } from "./rules";

export type Example = Schema<"RoutedExampleOut">;

export interface Routing {
  /** What was found out, with what needs no proof. */
  findings: readonly Finding[];
  open: readonly Schema<"NamedPlace">[];
  /** Whether it is of the rules as they stand. */
  current: boolean;
  problem: string;
  example: (number: number) => Example | undefined;
  /** An entry that the rule at a place, such as `rules/a`, acts on. */
  of: (at: string) => Example | undefined;
}

export function useRouting(
  id: string,
  usable: Dispatch | null,
  hints: readonly Finding[],
): Routing {
  const query = useQuery({
    queryKey: ["dispatch proof", id, usable],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/dispatch/proof", {
          params: { path: { id } },
          body: { dispatch: usable ?? {} },
        }),
      ),
    enabled: usable !== null,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 60_000,
  });
  const { findings = [], open = [], rules = {}, examples = {} } = query.data ?? {};
  const example = (number: number) => examples[String(number)];
  return {
    findings: [...hints, ...findings],
    open,
    current: query.isSuccess && !query.isPlaceholderData,
    problem: query.error?.message ?? "",
    example,
    of: (at) => {
      const number = rules[at];
      return number === undefined ? undefined : example(number);
    },
  };
}
