/** A draft under edit: what is known of it, and how that changes. State to state, no effects. */
import type { Fault, Schema } from "../../client/client";
import type { Doc } from "../document";

/** How far back undo goes. */
const STEPS = 500;

export type Saving = "saved" | "unsaved" | "saving" | "away" | "refused" | "clash";

export interface State {
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

export type Event =
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

export function reduce(state: State, event: Event): State {
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

export function start({ document, revision, faults }: Schema<"DraftOut">): State {
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
}
