/** Keeps a draft saved: by itself, again while the server is away, and never over a newer one. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";

import { client, ApiError, got, type Schema } from "../../client/client";
import { questionnaire, questionnaires } from "../data";
import type { Doc } from "../document";
import { reduce, start, startFrom, type Event, type State } from "./draftState";
import { keepFocus } from "./focus";
import { forgetUnsaved, keepUnsaved, readUnsaved } from "./unsaved";

/** Milliseconds from the last change to saving, and between tries while the server is away. */
const PAUSE = 700;
const AGAIN = 3000;

/** Told before others' changes are drawn, to go along with what was selected. */
export type Joining = (before: Doc, after: State) => void;

export function useDraft(id: string, opened: Schema<"DraftOut">, onJoin: Joining) {
  const queries = useQueryClient();
  const [state, setState] = useState(() => {
    const left = readUnsaved(id);
    return left ? startFrom(opened, left) : start(opened);
  });
  const busy = useRef(false);
  const latest = useRef(state);

  /** Hold a state at once, for what follows before the next drawing. */
  const become = useCallback((next: State) => {
    latest.current = next;
    setState(next);
  }, []);
  const send = useCallback((event: Event) => become(reduce(latest.current, event)), [become]);

  /** Bring in what somebody else saved; the focus stays in the field it is in. */
  const join = useCallback(
    (event: Event) => {
      const before = latest.current.doc;
      const after = reduce(latest.current, event);
      keepFocus(after.renamed, () =>
        flushSync(() => {
          become(after);
          if (after.doc !== before) onJoin(before, after);
        }),
      );
    },
    [become, onJoin],
  );

  const save = useCallback(async () => {
    const { doc, revision, saving } = latest.current;
    if (busy.current || saving === "saved" || saving === "clash" || saving === "refused") return;
    busy.current = true;
    send({ kind: "sent" });
    try {
      const reply = await got(
        client.PUT("/api/questionnaires/{id}/draft", {
          params: { path: { id } },
          body: { document: doc, revision },
        }),
      );
      send({ kind: "saved", reply, sent: doc });
      void queries.invalidateQueries(questionnaire(id));
      void queries.invalidateQueries({ ...questionnaires, refetchType: "none" });
    } catch (error) {
      const stale = error instanceof ApiError && error.status === 409;
      const current = stale ? (error.params["current"] as ServerDraft) : null;
      if (current) {
        const { revision: newer, value: document } = current;
        send({ kind: "saving", saving: "unsaved" });
        join({ kind: "theirs", theirs: { revision: newer, document } });
      } else if (error instanceof ApiError && [401, 403].includes(error.status)) {
        const refusal = `${error.message} Until then your changes stay here, in this browser.`;
        send({ kind: "saving", saving: "away", refusal });
      } else if (error instanceof ApiError && error.status >= 400 && error.status < 500) {
        const refusal = error.faults[0]?.message ?? error.message;
        send({ kind: "saving", saving: "refused", refusal });
      } else send({ kind: "saving", saving: "away" });
    } finally {
      busy.current = false;
    }
  }, [id, queries, send, join]);

  /** Fetch what somebody else has saved at `revision`, where nothing of ours waits. */
  const catchUp = useCallback(
    async (revision: number) => {
      const { saving, revision: known } = latest.current;
      if (busy.current || saving !== "saved" || revision <= known) return;
      const path = { params: { path: { id } } };
      const theirs = await got(client.GET("/api/questionnaires/{id}/draft", path));
      join({ kind: "theirs", theirs });
    },
    [id, join],
  );

  useEffect(() => {
    if (state.saving !== "unsaved" && state.saving !== "away") return;
    const timer = setTimeout(() => void save(), state.saving === "away" ? AGAIN : PAUSE);
    return () => clearTimeout(timer);
  }, [state.saving, state.doc, state.revision, state.tries, save]);

  useEffect(() => {
    if (state.saving === "away") keepUnsaved(id, state);
    if (state.saving === "saved") forgetUnsaved(id);
  }, [id, state]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (latest.current.saving === "saved") return;
      keepUnsaved(id, latest.current);
      event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      void save();
    };
  }, [id, save]);

  const edit = useCallback(
    (doc: Doc | ((doc: Doc) => Doc), step = "") => {
      const next = typeof doc === "function" ? doc(latest.current.doc) : doc;
      send({ kind: "edit", doc: next, step });
    },
    [send],
  );
  return useMemo(
    () => ({ ...state, id, edit, send, join, catchUp }),
    [state, id, edit, send, join, catchUp],
  );
}

interface ServerDraft {
  revision: number;
  value: Doc;
}

export type Draft = ReturnType<typeof useDraft>;
