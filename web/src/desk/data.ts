/** What the desk asks the server for, by name, and what a change makes out of date. */
import { queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../client/client";
import type { paths } from "../client/schema";

const path = (id: string) => ({ params: { path: { id } } });

export const me = queryOptions({
  queryKey: ["me"],
  queryFn: () => got(client.GET("/api/me")),
  staleTime: 60_000,
  retry: false,
});

/** How one can sign in here. */
export const signInWays = queryOptions({
  queryKey: ["sign-in"],
  queryFn: () => got(client.GET("/api/sign-in")),
  staleTime: 60_000,
});

/** What a one-time link is for. */
export const link = (token: string) =>
  queryOptions({
    queryKey: ["link", token],
    queryFn: () => got(client.POST("/api/link", { body: { token } })),
    staleTime: Infinity,
    retry: false,
    meta: { staysSignedIn: true },
  });

/** What one signs in with. */
export const ownAccount = queryOptions({
  queryKey: ["account"],
  queryFn: () => got(client.GET("/api/account")),
});

/** A secret for one-time codes; another one each time. */
export const offeredCodes = queryOptions({
  queryKey: ["offered codes"],
  queryFn: () => got(client.POST("/api/account/codes/offer")),
  staleTime: Infinity,
  retry: false,
  gcTime: 0,
});

export const ownSessions = queryOptions({
  queryKey: ["sessions"],
  queryFn: () => got(client.GET("/api/account/sessions")),
});

export const ownTokens = queryOptions({
  queryKey: ["tokens"],
  queryFn: () => got(client.GET("/api/account/tokens")),
});

/** Everybody of the office, and the teams. */
export const people = queryOptions({
  queryKey: ["people"],
  queryFn: () => got(client.GET("/api/people")),
});

export const officeSettings = queryOptions({
  queryKey: ["office"],
  queryFn: () => got(client.GET("/api/office")),
  staleTime: Infinity,
  gcTime: 0,
});

/** A questionnaire or a register, which people have parts in. */
export type Thing = "questionnaires" | "registers";

/** Who works on a thing. */
export const parts = (thing: Thing, id: string) =>
  queryOptions({
    queryKey: ["parts", thing, id],
    queryFn: () =>
      thing === "questionnaires"
        ? got(client.GET("/api/questionnaires/{id}/parts", path(id)))
        : got(client.GET("/api/registers/{id}/parts", path(id))),
  });

/** Whether one has clearance still; asked while restricted answers are shown. */
export const ownClearance = (id: string) =>
  queryOptions({
    queryKey: ["clearance", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/clearance", path(id))),
    refetchInterval: 4000,
    gcTime: 0,
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

/** The questionnaires in which entries have had their status for too long. */
export const lateEntries = queryOptions({
  queryKey: ["late entries"],
  queryFn: () => got(client.GET("/api/questionnaires/late")),
  staleTime: 60_000,
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

/** An entry in full, in the words of the office, or as it was asked in a `language`. Dispatch acts on
 * it a moment after it has come, and others work on it meanwhile. */
export const entry = (id: string, entryId: string, language = "") =>
  queryOptions({
    queryKey: ["entry", id, entryId, language],
    queryFn: () =>
      got(
        client.GET("/api/questionnaires/{id}/entries/{entry_id}", {
          params: { path: { id, entry_id: entryId }, query: { language } },
        }),
      ),
    refetchInterval: 4000,
  });

export const registers = queryOptions({
  queryKey: ["registers"],
  queryFn: () => got(client.GET("/api/registers")),
});

export const MAIL_RULES = ["mail room", "rules"] as const;

export const mailRules = queryOptions({
  queryKey: MAIL_RULES,
  queryFn: () => got(client.GET("/api/mail-room/rules")),
});

export const putMailRules = (rules: Schema<"MailRuleBody">[]) =>
  got(client.PUT("/api/mail-room/rules", { body: { rules } }));

export const letters = queryOptions({
  queryKey: ["letters"],
  queryFn: () => got(client.GET("/api/mail-room")),
  refetchInterval: 4000,
});

/** Which lines of the trail are wanted. */
export type TrailFilter = NonNullable<paths["/api/trail"]["get"]["parameters"]["query"]>;

export const trailPage = (wanted: TrailFilter, before: number | null) =>
  got(client.GET("/api/trail", { params: { query: { ...wanted, before } } }));

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
