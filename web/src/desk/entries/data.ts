/** The table of entries, as the server has it. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";
import { asked, type TableView } from "../views/view";

export type Entry = Schema<"EntryOut">;
export type TableColumn = Schema<"TableColumnOut">;
export type Page = Schema<"EntriesOut">;

const at = (id: string) => ({ params: { path: { id } } });

/** What is looked at, with the archive or without it. */
export interface Looked {
  view: TableView;
  archived: boolean;
}

const inAddress = ({ view, archived }: Looked) => ({
  view: JSON.stringify(asked(view)),
  archived,
});

export const entryColumns = (id: string) =>
  queryOptions({
    queryKey: ["entry columns", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/entry-columns", at(id))),
    staleTime: 30_000,
  });

export const entriesKey = (id: string, looked: Looked) =>
  ["entries", id, inAddress(looked)] as const;

export const pageOf = (id: string, looked: Looked, after: string, over?: number) =>
  got(
    client.GET("/api/questionnaires/{id}/entries", {
      params: {
        path: { id },
        query: { ...inAddress(looked), after, ...(over === undefined ? {} : { over }) },
      },
    }),
  );

/** Read a page after the other; read again only where somebody asks for that. */
export const entryPages = (id: string, looked: Looked) =>
  infiniteQueryOptions({
    queryKey: entriesKey(id, looked),
    queryFn: ({ pageParam }) => pageOf(id, looked, pageParam),
    initialPageParam: "",
    getNextPageParam: (page) => page.next,
    staleTime: Infinity,
    gcTime: 60_000,
    refetchOnWindowFocus: false,
  });

export const entryCount = (id: string, looked: Looked) =>
  queryOptions({
    queryKey: ["entries", id, "count", inAddress(looked)],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/entry-count", {
          params: { path: { id }, query: inAddress(looked) },
        }),
      ),
    staleTime: 10_000,
  });

export const entryGroups = (id: string, looked: Looked) =>
  queryOptions({
    queryKey: ["entries", id, "groups", inAddress(looked)],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/entry-groups", {
          params: { path: { id }, query: inAddress(looked) },
        }),
      ),
    enabled: Boolean(looked.view.group),
    staleTime: 10_000,
  });

export const keepView = (id: string, viewId: string | null, body: Schema<"ViewIn">) =>
  viewId === null
    ? got(client.POST("/api/questionnaires/{id}/entry-views", { ...at(id), body }))
    : got(
        client.PUT("/api/questionnaires/{id}/entry-views/{view_id}", {
          params: { path: { id, view_id: viewId } },
          body,
        }),
      );

export const removeView = (id: string, viewId: string) =>
  got(
    client.DELETE("/api/questionnaires/{id}/entry-views/{view_id}", {
      params: { path: { id, view_id: viewId } },
    }),
  );

export type FileFormat = "csv" | "xlsx" | "jsonl" | "xml" | "zip";

/** Entries by their numbers, or all `but` those. */
export interface Chosen {
  numbers: readonly number[];
  but: boolean;
}

/** So many can be named in an address. */
export const MOST_NAMED = 2000;

export const exportAddress = (
  id: string,
  { view, archived }: Looked,
  format: FileFormat,
  { codes = false, files = false }: { codes?: boolean; files?: boolean },
  chosen?: Chosen,
) =>
  `/api/questionnaires/${id}/entries-export?${new URLSearchParams({
    view: JSON.stringify({ ...asked(view), columns: view.columns ?? [] }),
    archived: String(archived),
    format,
    codes: String(codes),
    files: String(files),
    ...(chosen?.numbers.length
      ? { numbers: chosen.numbers.join(","), but: String(chosen.but) }
      : {}),
  }).toString()}`;

/** So many entries are printed at once. */
export const MOST_PRINTED = 100;

export const printAddress = (id: string, numbers: readonly number[], own = false) =>
  `/api/questionnaires/${id}/entries-print?${new URLSearchParams({
    numbers: numbers.join(","),
    own: String(own),
  }).toString()}`;
