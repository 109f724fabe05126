/** Pages to share, as the server keeps them. */
import { queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../../client/client";

export type SharedPage = Schema<"SharedPageOut">;
export type Content = Required<Schema<"PageContent">>;
export type PagePart = Content["parts"][number];

/** With what the server leaves out where it is as by itself. */
export const whole = (content: Schema<"PageContent">): Content => ({
  parts: [],
  filter: null,
  archived: false,
  of: "answered",
  until: null,
  ...content,
});

/** What of a page can be changed. */
export interface Given {
  content: Content;
  live: boolean;
}

export const sharedPages = (id: string) =>
  queryOptions({
    queryKey: ["shared pages", id],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/shared-pages", { params: { path: { id } } })),
  });

const of = (id: string, page_id: string) => ({ params: { path: { id, page_id } } });
const PAGE = "/api/questionnaires/{id}/shared-pages/{page_id}";

export const addPage = (id: string, body: Given) =>
  got(client.POST("/api/questionnaires/{id}/shared-pages", { params: { path: { id } }, body }));

export const changePage = (id: string, page: SharedPage, given: Given) =>
  got(client.PUT(PAGE, { ...of(id, page.id), body: { ...given, revision: page.revision } }));

export const closePage = (id: string, page: SharedPage, closed: boolean) =>
  got(client.PUT(`${PAGE}/closed`, { ...of(id, page.id), body: { closed } }));

export const removePage = (id: string, page: SharedPage) =>
  got(client.DELETE(PAGE, of(id, page.id)));
