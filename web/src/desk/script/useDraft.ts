/** A draft under edit: undo and redo, saving by itself, and what happens when two people save. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef } from "react";

import { client, Failed, got, type Fault, type Schema } from "../../client/client";
import { questionnaire, questionnaires } from "../data";
import type { Doc } from "../document";

const STEPS = 500;
const PAUSE = 700;
const AGAIN = 3000;

export type Saving = "saved" | "unsaved" | "saving" | "away" | "refused" | "clash";

interface State {
  past: readonly Doc[];
  doc: Doc;
  future: readonly Doc[];
  /** What the last step was; steps of one name become one. */
  step: string;
  revision: number;
  /** Why the server did not take the draft. */
  refusal: string;
  faults: readonly Fault[];
  saving: Saving;
  theirs: Schema<"Draft"> | null;
}

type Event =
  | { kind: "edit"; doc: Doc; step: string }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "saving"; saving: Saving; refusal?: string }
  | { kind: "saved"; revision: number; doc: Doc; faults: readonly Fault[] }
  | { kind: "clash"; theirs: Schema<"Draft"> }
  | { kind: "settle"; keep: "mine" | "theirs" };

function unsaved(state: State): State {
  return { ...state, saving: state.theirs ? "clash" : "unsaved" };
}

function reduce(state: State, event: Event): State {
  const { past, doc, future } = state;
  switch (event.kind) {
    case "edit": {
      if (event.doc === doc) return state;
      const goesOn = event.step !== "" && event.step === state.step;
      const kept = goesOn ? past : [...past, doc].slice(-STEPS);
      return unsaved({
        ...state,
        past: kept,
        doc: event.doc,
        future: [],
        step: event.step,
      });
    }
    case "undo": {
      const before = past.at(-1);
      if (!before) return state;
      const next = {
        past: past.slice(0, -1),
        doc: before,
        future: [doc, ...future],
        step: "",
      };
      return unsaved({ ...state, ...next });
    }
    case "redo": {
      const [after, ...rest] = future;
      if (!after) return state;
      return unsaved({
        ...state,
        past: [...past, doc],
        doc: after,
        future: rest,
        step: "",
      });
    }
    case "saving":
      return { ...state, saving: event.saving, refusal: event.refusal ?? "" };
    case "saved": {
      const { revision, faults } = event;
      const saving = event.doc === doc ? "saved" : "unsaved";
      return { ...state, revision, faults, saving };
    }
    case "clash":
      return { ...state, theirs: event.theirs, saving: "clash" };
    case "settle": {
      if (!state.theirs) return state;
      const { revision, document } = state.theirs;
      const base = { ...state, revision, theirs: null, step: "" };
      if (event.keep === "mine") return { ...base, past: [...past, document], saving: "unsaved" };
      return {
        ...base,
        past: [...past, doc],
        doc: document,
        future: [],
        saving: "saved",
      };
    }
  }
}

export function useDraft(id: string, start: Schema<"DraftOut">) {
  const queries = useQueryClient();
  const [state, dispatch] = useReducer(reduce, start, ({ document, revision, faults }): State => {
    return {
      past: [],
      doc: document,
      future: [],
      step: "",
      revision,
      refusal: "",
      faults,
      saving: "saved",
      theirs: null,
    };
  });
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
