/** What the Links place asks for, and what it changes. */
import { queryOptions } from "@tanstack/react-query";

import { asBytes, client, got, type Schema } from "../../client/client";
import { untilEnded } from "../work";

/** Letters a minute, at most. */
export const FASTEST = 60_000;

export const ways = (id: string) =>
  queryOptions({
    queryKey: ["ways", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/links", { params: { path: { id } } })),
  });

export const batchPage = (id: string, batchId: string, after: number) =>
  queryOptions({
    queryKey: ["passes", id, batchId, after],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/links/passes/{batch_id}", {
          params: { path: { id, batch_id: batchId }, query: { after } },
        }),
      ),
  });

/** Work under way: asked for until it has ended. */
export const workOf = (id: string, workId: string) =>
  queryOptions({
    queryKey: ["work", id, workId],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/links/work/{work_id}", {
          params: { path: { id, work_id: workId } },
        }),
      ),
    refetchInterval: untilEnded,
    gcTime: 0,
  });

/** Where people go on, and which sites may frame the page. */
export const linksSettings = (id: string) =>
  queryOptions({
    queryKey: ["links settings", id],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/links/settings", { params: { path: { id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });

export const saveLinks = (id: string, body: Schema<"LinksBody">) =>
  got(client.PUT("/api/questionnaires/{id}/links/settings", { params: { path: { id } }, body }));

/** What can go along to the questionnaire at the address `to`. */
export const onward = (id: string, to: string) =>
  queryOptions({
    queryKey: ["onward", id, to],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/links/onward/{to}", { params: { path: { id, to } } }),
      ),
  });

/** Keys that other programs make links with. */
export const linkKeys = (id: string) =>
  queryOptions({
    queryKey: ["link keys", id],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/links/keys", { params: { path: { id } } })),
  });

export const makeLinkKey = (id: string) =>
  got(client.POST("/api/questionnaires/{id}/links/keys", { params: { path: { id } } }));

export const endLinkKey = (id: string, keyId: string) =>
  got(
    client.DELETE("/api/questionnaires/{id}/links/keys/{key_id}", {
      params: { path: { id, key_id: keyId } },
    }),
  );

export const addNamed = (id: string, body: Schema<"NamedLinkIn">) =>
  got(client.POST("/api/questionnaires/{id}/links/named", { params: { path: { id } }, body }));

export const putNamed = (id: string, linkId: string, body: Schema<"NamedLinkPut">) =>
  got(
    client.PUT("/api/questionnaires/{id}/links/named/{link_id}", {
      params: { path: { id, link_id: linkId } },
      body,
    }),
  );

export const removeNamed = (id: string, linkId: string) =>
  got(
    client.DELETE("/api/questionnaires/{id}/links/named/{link_id}", {
      params: { path: { id, link_id: linkId } },
    }),
  );

export const bringTable = (id: string, file: File) =>
  got(
    client.POST("/api/questionnaires/{id}/links/tables", {
      params: { path: { id }, query: { name: file.name } },
      ...asBytes(file),
    }),
  );

export const makePasses = (id: string, body: Schema<"PassesIn">) =>
  got(client.POST("/api/questionnaires/{id}/links/passes", { params: { path: { id } }, body }));

export const revokeAll = (id: string, batchId: string) =>
  got(
    client.DELETE("/api/questionnaires/{id}/links/passes/{batch_id}", {
      params: { path: { id, batch_id: batchId } },
    }),
  );

export const revokeOne = (id: string, batchId: string, passId: string) =>
  got(
    client.DELETE("/api/questionnaires/{id}/links/passes/{batch_id}/{pass_id}", {
      params: { path: { id, batch_id: batchId, pass_id: passId } },
    }),
  );

export const linkOfPass = (id: string, batchId: string, passId: string) =>
  got(
    client.POST("/api/questionnaires/{id}/links/passes/{batch_id}/{pass_id}/link", {
      params: { path: { id, batch_id: batchId, pass_id: passId } },
    }),
  );

/** Letters to contacts. */
export const mailings = (id: string) =>
  queryOptions({
    queryKey: ["mailings", id],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/links/mailings", { params: { path: { id } } })),
    refetchInterval: ({ state }) =>
      state.data?.some(({ state: now }) => now === "preparing" || now === "sending") ? 2000 : false,
  });

export const lettersOf = (id: string, mailingId: string) =>
  queryOptions({
    queryKey: ["mailings", id, mailingId],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/links/mailings/{mailing_id}/letters", {
          params: { path: { id, mailing_id: mailingId } },
        }),
      ),
  });

export const askForMailing = (id: string, body: Schema<"MailingIn">) =>
  got(client.POST("/api/questionnaires/{id}/links/mailings", { params: { path: { id } }, body }));

export const previewMailing = (id: string, body: Schema<"PreviewIn">) =>
  got(
    client.POST("/api/questionnaires/{id}/links/mailings/preview", {
      params: { path: { id } },
      body,
    }),
  );

export const holdMailing = (id: string, mailingId: string, held: boolean) =>
  got(
    client.PUT("/api/questionnaires/{id}/links/mailings/{mailing_id}/held", {
      params: { path: { id, mailing_id: mailingId } },
      body: { held },
    }),
  );

/** The providers that visitors can sign in at, by name. */
export const providerNames = queryOptions({
  queryKey: ["identity providers", "names"],
  queryFn: () => got(client.GET("/api/identity-providers/names")),
});
