/** Registers as the server has them. */
import { queryOptions } from "@tanstack/react-query";

import { asBytes, client, got, type Schema } from "../../client/client";
import { asked, type TableView } from "../views/view";
import { untilEnded } from "../work";

export type RegisterRead = Schema<"RegisterRead">;
export type Row = Schema<"RegisterRowOut">;
export type Order = Schema<"RowOrder">;
export type News = Schema<"RegisterNews">;
export type CellsIn = Schema<"CellsIn">;
export type CellsOut = Schema<"CellsOut">;
export type Refused = Schema<"CellRefused">;

const at = (id: string) => ({ params: { path: { id } } });

export const registerRead = (id: string) =>
  queryOptions({
    queryKey: ["register", id],
    queryFn: () => got(client.GET("/api/registers/{id}", at(id))),
  });

/** Moments are enough for an order that was asked for while the page was fetched. */
const JUST_ASKED = 1500;

export function orderQuery(id: string, view: TableView) {
  const wanted = JSON.stringify(asked(view));
  return queryOptions({
    queryKey: ["register", id, "order", wanted],
    queryFn: () =>
      got(
        client.GET("/api/registers/{id}/order", {
          params: { path: { id }, query: { view: wanted } },
        }),
      ),
    staleTime: JUST_ASKED,
    gcTime: JUST_ASKED,
  });
}

export const rowsOf = (id: string, ids: readonly number[]) =>
  got(
    client.GET("/api/registers/{id}/rows", {
      params: { path: { id }, query: { ids: ids.join(",") } },
    }),
  );

export const newsOf = (id: string, view: TableView, since: number, tab: string, cell: string) =>
  got(
    client.POST("/api/registers/{id}/news", {
      ...at(id),
      body: { view: asked(view), since, tab, at: cell },
    }),
  );

/** Registers that are being deleted: nobody asks what is new in them. */
export const removing = new Set<string>();

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

export const writeCells = (id: string, body: CellsIn) =>
  got(client.POST("/api/registers/{id}/cells", { ...at(id), body: { ...body, zone: ZONE } }));

export const removeRows = (id: string, ids: number[], back: boolean) =>
  got(client.POST("/api/registers/{id}/rows/remove", { ...at(id), body: { ids, back } }));

export const putRegister = (id: string, body: Schema<"RegisterIn">) =>
  got(client.PUT("/api/registers/{id}", { ...at(id), body }));

export const keepView = (id: string, viewId: string | null, body: Schema<"ViewIn">) =>
  viewId === null
    ? got(client.POST("/api/registers/{id}/views", { ...at(id), body }))
    : got(
        client.PUT("/api/registers/{id}/views/{view_id}", {
          params: { path: { id, view_id: viewId } },
          body,
        }),
      );

export const removeView = (id: string, viewId: string) =>
  got(
    client.DELETE("/api/registers/{id}/views/{view_id}", {
      params: { path: { id, view_id: viewId } },
    }),
  );

export const bringNewTable = (file: File) =>
  got(
    client.POST("/api/register-tables", {
      params: { query: { name: file.name } },
      ...asBytes(file),
    }),
  );

export const bringTable = (id: string, file: File) =>
  got(
    client.POST("/api/registers/{id}/tables", {
      params: { path: { id }, query: { name: file.name } },
      ...asBytes(file),
    }),
  );

export const bringRows = (id: string, body: Schema<"RowsBroughtIn">) =>
  got(client.POST("/api/registers/{id}/rows/bring", { ...at(id), body: { ...body, zone: ZONE } }));

/** Work under way: asked for until it has ended. */
export const registerWork = (id: string, workId: string) =>
  queryOptions({
    queryKey: ["register work", workId],
    queryFn: () =>
      got(
        client.GET("/api/registers/{id}/work/{work_id}", {
          params: { path: { id, work_id: workId } },
        }),
      ),
    refetchInterval: untilEnded,
    gcTime: 0,
  });

export const exportAddress = (id: string, view: TableView, format: "csv" | "xlsx") =>
  `/api/registers/${id}/export?${new URLSearchParams({
    view: JSON.stringify({ ...asked(view), columns: view.columns ?? [] }),
    format,
    zone: ZONE,
  }).toString()}`;
