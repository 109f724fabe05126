/** Keeps a draft saved: by itself, again while the server is away, and never over a newer one. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef } from "react";

import { client, Failed, got, type Schema } from "../../client/client";
import { questionnaire, questionnaires } from "../data";
import type { Doc } from "../document";
import { reduce, start, type Event } from "./draftState";

/** Milliseconds from the last change to saving, and between tries while the server is away. */
const PAUSE = 700;
const AGAIN = 3000;

export function useDraft(id: string, opened: Schema<"DraftOut">) {
  const queries = useQueryClient();
  const [state, dispatch] = useReducer(reduce, opened, start);
  const busy = useRef(false);
  const latest = useRef(state);

  /** Apply an event at once, for what follows before the next drawing. */
  const send = useCallback((event: Event) => {
    latest.current = reduce(latest.current, event);
    dispatch(event);
  }, []);

  const save = useCallback(async () => {
    const { doc, revision, saving } = latest.current;
    if (busy.current || saving === "saved" || saving === "clash" || saving === "refused") return;
    busy.current = true;
    send({ kind: "saving", saving: "saving" });
    try {
      const reply = await got(
        client.PUT("/api/questionnaires/{id}/draft", {
          params: { path: { id } },
          body: { document: doc, revision },
        }),
      );
      send({
        kind: "saved",
        revision: reply.revision,
        faults: reply.faults,
        doc,
      });
      await Promise.all([
        queries.invalidateQueries(questionnaire(id)),
        queries.invalidateQueries({ ...questionnaires, refetchType: "none" }),
      ]);
    } catch (error) {
      const stale = error instanceof Failed && error.status === 409;
      const current = stale ? (error.params["current"] as ServerDraft) : null;
      if (current) {
        send({
          kind: "clash",
          theirs: { revision: current.revision, document: current.value },
        });
      } else if (error instanceof Failed && [401, 403].includes(error.status)) {
        const refusal = `${error.message} Until then your changes stay here, in this tab.`;
        send({ kind: "saving", saving: "away", refusal });
      } else if (error instanceof Failed && error.status >= 400 && error.status < 500) {
        const refusal = error.faults[0]?.message ?? error.message;
        send({ kind: "saving", saving: "refused", refusal });
      } else send({ kind: "saving", saving: "away" });
    } finally {
      busy.current = false;
    }
  }, [id, queries, send]);

  useEffect(() => {
    if (state.saving !== "unsaved" && state.saving !== "away") return;
    const timer = setTimeout(() => void save(), state.saving === "away" ? AGAIN : PAUSE);
    return () => clearTimeout(timer);
  }, [state.saving, state.doc, state.revision, save]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (latest.current.saving !== "saved") event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      void save();
    };
  }, [save]);

  const edit = useCallback(
    (doc: Doc | ((doc: Doc) => Doc), step = "") => {
      const next = typeof doc === "function" ? doc(latest.current.doc) : doc;
      latest.current = reduce(latest.current, {
        kind: "edit",
        doc: next,
        step,
      });
      send({ kind: "edit", doc: next, step });
    },
    [send],
  );
  return { ...state, edit, send, save };
}

interface ServerDraft {
  revision: number;
  value: Doc;
}

export type Draft = ReturnType<typeof useDraft>;
