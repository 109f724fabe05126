/** Statuses and the archive of entries, as the desk asks for them. */
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
