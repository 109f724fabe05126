/** What the desk asks the server for, by name, and what a change makes out of date. */
import { queryOptions } from "@tanstack/react-query";

import { client, got } from "../client/client";

const path = (id: string) => ({ params: { path: { id } } });

export const me = queryOptions({
  queryKey: ["me"],
  queryFn: () => got(client.GET("/api/me")),
  staleTime: 60_000,
  retry: false,
});

export const questionnaires = queryOptions({
  queryKey: ["questionnaires"],
  queryFn: () => got(client.GET("/api/questionnaires")),
});

/** Work that waits for over a minute, since nobody does it. */
export const waiting = queryOptions({
  queryKey: ["waiting"],
  queryFn: () => got(client.GET("/api/questionnaires/waiting")),
  refetchInterval: 20_000,
});

/** An outline read as typed questions. Asked for while somebody writes: where the session has ended,
 * saving says so, and what is being written stays on the screen. */
export const outline = (text: string, language: string, taken: () => string[]) =>
  queryOptions({
    queryKey: ["outline", text, language],
    queryFn: () => got(client.POST("/api/outlines", { body: { text, language, taken: taken() } })),
    gcTime: 0,
    retry: false,
    meta: { staysSignedIn: true },
  });

/** What a questionnaire can start from that ships with the application. */
export const starts = queryOptions({
  queryKey: ["starts"],
  queryFn: () => got(client.GET("/api/questionnaires/starts")),
  staleTime: Infinity,
});

export const questionnaire = (id: string) =>
  queryOptions({
    queryKey: ["questionnaire", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}", path(id))),
  });

export const draft = (id: string) =>
  queryOptions({
    queryKey: ["draft", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/draft", path(id))),
    staleTime: Infinity,
    gcTime: 0,
  });

export const edition = (id: string) =>
  queryOptions({
    queryKey: ["edition", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/editions/newest", path(id))),
    retry: false,
  });

export const editions = (id: string) =>
  queryOptions({
    queryKey: ["editions", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/editions", path(id))),
  });

export const editionAt = (id: string, number: number) =>
  queryOptions({
    queryKey: ["edition", id, number],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/editions/{number}", {
          params: { path: { id, number } },
        }),
      ),
    staleTime: Infinity,
  });

/** What an edition changed since the one before it, or the draft since the newest edition. */
export const changesOf = (id: string, number: number | null) =>
  queryOptions({
    queryKey: ["changes", id, number],
    queryFn: () =>
      number === null
        ? got(client.GET("/api/questionnaires/{id}/draft/changes", path(id)))
        : got(
            client.GET("/api/questionnaires/{id}/editions/{number}/changes", {
              params: { path: { id, number } },
            }),
          ),
    gcTime: 0,
  });

/** What of the draft FHIR cannot say. */
export const leftOut = (id: string) =>
  queryOptions({
    queryKey: ["left out", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/draft/fhir/left-out", path(id))),
    gcTime: 0,
  });

export const gate = (id: string) =>
  queryOptions({
    queryKey: ["gate", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/gate", path(id))),
  });

export const dispatch = (id: string) =>
  queryOptions({
    queryKey: ["dispatch", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/dispatch", path(id))),
    staleTime: Infinity,
    gcTime: 0,
  });

export const entry = (id: string, entryId: string) =>
  queryOptions({
    queryKey: ["entry", id, entryId],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/entries/{entry_id}", {
          params: { path: { id, entry_id: entryId } },
        }),
      ),
  });

export const registers = queryOptions({
  queryKey: ["registers"],
  queryFn: () => got(client.GET("/api/registers")),
});

export const letters = queryOptions({
  queryKey: ["letters"],
  queryFn: () => got(client.GET("/api/mail-room")),
  refetchInterval: 4000,
});

export const entryPage = (id: string, before: number | null) =>
  got(
    client.GET("/api/questionnaires/{id}/entries", {
      params: { path: { id }, query: before === null ? {} : { before } },
    }),
  );

export const registerPage = (id: string, before: number | null) =>
  got(
    client.GET("/api/registers/{id}", {
      params: { path: { id }, query: before === null ? {} : { before } },
    }),
  );

export const trailPage = (before: number | null) =>
  got(
    client.GET("/api/trail", {
      params: { query: before === null ? {} : { before } },
    }),
  );

/** What is proved of the draft at a revision: what can happen in it and what cannot. */
export const proof = (id: string, revision: number) =>
  queryOptions({
    queryKey: ["proof", id, revision],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/draft/proof", path(id))),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });

export const walkThroughs = (id: string, revision: number) =>
  queryOptions({
    queryKey: ["walk-throughs", id, revision],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/draft/proof/walk-throughs", path(id))),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
