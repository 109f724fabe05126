/** Statuses and the archive of entries, and who takes care of them, as the desk asks for it. */
import { queryOptions, useQuery } from "@tanstack/react-query";

import { client, got, type Schema } from "../client/client";

export type Status = Schema<"Status">;

const path = (id: string) => ({ params: { path: { id } } });

export const handling = (id: string) =>
  queryOptions({
    queryKey: ["handling", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/statuses", path(id))),
  });

export const saveStatuses = (id: string, body: Schema<"HandlingBody">) =>
  got(client.PUT("/api/questionnaires/{id}/statuses", { ...path(id), body }));

export const handle = (id: string, body: Schema<"HandleIn">) =>
  got(client.POST("/api/questionnaires/{id}/entries/handling", { ...path(id), body }));

/** The statuses in their order; none while they are asked for. */
export function useStatuses(id: string): readonly Status[] {
  return useQuery(handling(id)).data?.handling.statuses ?? [];
}

export const statusName = (statuses: readonly Status[], key: string | undefined): string =>
  statuses.find((one) => one.key === key)?.name ?? "";

const carers = (id: string) =>
  queryOptions({
    queryKey: ["carers", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/carers", path(id))),
    staleTime: 60_000,
  });

/** Who may be set to take care of entries; nobody while that is asked, or for those who read only. */
export function useCarers(id: string, writes: boolean): Schema<"CarersOut"> {
  return useQuery({ ...carers(id), enabled: writes }).data ?? { people: [], teams: [] };
}

type Care = Schema<"CareOut"> | null | undefined;

const NOBODY = "nobody";

export const careCode = (care: Care): string =>
  care?.person_id ?? (care?.team_id ? `team ${care.team_id}` : NOBODY);

/** The choices of who takes care, with who does now, also where they may not see entries any more. */
export function careOptions({ people, teams }: Schema<"CarersOut">, care: Care) {
  const options = [
    { code: NOBODY, label: "Nobody yet", group: "" },
    ...people.map(({ id, name }) => ({ code: id, label: name, group: "People" })),
    ...teams.map(({ id, name }) => ({ code: `team ${id}`, label: name, group: "Teams" })),
  ];
  const now = careCode(care);
  const there = options.some(({ code }) => code === now);
  return there || !care ? options : [...options, { code: now, label: care.name, group: "" }];
}

export function careOf(code: string): Schema<"CareIn"> {
  if (code === NOBODY) return {};
  return code.startsWith("team ") ? { team_id: code.slice(5) } : { person_id: code };
}
