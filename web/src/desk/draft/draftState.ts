/** A draft under edit: what is known of it, and how that changes. State to state, no effects. */
import { dequal } from "dequal";
import type { Fault, Schema } from "../../client/client";
import type { Doc } from "../document";
import { merge } from "./merge/merge";
import type { Choose } from "./merge/parts";
import { shared } from "./merge/shared";
import { afterRenames, type StableKeys } from "./stableKeys";

type Draft = Pick<Schema<"DraftOut">, "revision" | "document">;

/** What depends on restricted answers, and on which. */
export type Depending = Schema<"Depending">;

/** How far back undo goes. */
const STEPS = 500;

export type Saving = "saved" | "unsaved" | "saving" | "away" | "refused" | "clash";

/** A version to go back to. `seen` is how many times others' changes had come in by then. */
interface Step {
  doc: Doc;
  seen: number;
}

/** Others' changes: from what we had both known to what they made of it. */
interface Joined {
  base: Doc;
  theirs: Doc;
}

export interface State {
  past: readonly Step[];
  doc: Doc;
  future: readonly Step[];
  /** What the last step was; steps of one name become one. */
  step: string;
  revision: number;
  /** The draft as the server has it at `revision`. */
  base: Doc;
  joined: readonly Joined[];
  /** Keys of ours that became others when changes came in last. */
  renamed: ReadonlyMap<string, string>;
  stableKeys: StableKeys;
  /** Why the server did not take the draft. */
  refusal: string;
  faults: readonly Fault[];
  depending: Depending;
  saving: Saving;
  /** How often saving was begun: a try that fails at once must differ from the one before. */
  tries: number;
  /** What was sent since the last reply: the server may hold any of it without our knowing. */
  unanswered: readonly Doc[];
  /** A newer version that clashes with ours. */
  theirs: Draft | null;
}

export type Event =
  | { kind: "edit"; doc: Doc; step: string }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "saving"; saving: Saving; refusal?: string }
  | { kind: "sent" }
  | { kind: "saved"; reply: Schema<"DraftOut">; sent: Doc }
  | { kind: "theirs"; theirs: Draft }
  | { kind: "resolve"; choose: Choose };

function unsaved(state: State): State {
  return { ...state, saving: state.theirs ? "clash" : "unsaved" };
}

/** An earlier version with what others have changed since. */
function current(step: Step, joined: readonly Joined[]): Doc {
  return joined
    .slice(step.seen)
    .reduce((doc, { base, theirs }) => merge(base, doc, theirs).doc, step.doc);
}

/** Bring in a newer version, clashes settled by `choose`; what clashes. */
function join(state: State, { revision, document }: Draft, choose?: Choose) {
  const theirs = shared(state.base, document);
  const { doc, renamed, clashes } = merge(state.base, state.doc, theirs, choose);
  const next: State = {
    ...state,
    doc,
    renamed,
    revision,
    base: theirs,
    joined: [...state.joined, { base: state.base, theirs }],
    theirs: null,
    unanswered: [],
    step: "",
    saving: dequal(doc, theirs) ? "saved" : "unsaved",
  };
  return { next, clashes };
}

/** The newer version where it is one that we sent ourselves and whose reply was lost. */
function answered(state: State, { revision, document }: Draft): State | null {
  const base = state.unanswered.find((sent) => dequal(sent, document));
  if (!base) return null;
  const saving = dequal(state.doc, base) ? "saved" : "unsaved";
  return { ...state, revision, base, saving, unanswered: [] };
}

/** What in a newer version clashes with ours. */
export function clashes({ base, doc, theirs }: State) {
  return theirs ? merge(base, doc, theirs.document).clashes : [];
}

export function reduce(state: State, event: Event): State {
  const next = changed(state, event);
  return next === state
    ? state
    : { ...next, stableKeys: afterRenames(state.stableKeys, state.doc, next.doc) };
}

function changed(state: State, event: Event): State {
  const { past, doc, future, joined } = state;
  const now = { doc, seen: joined.length };
  switch (event.kind) {
    case "edit": {
      if (event.doc === doc) return state;
      const goesOn = event.step !== "" && event.step === state.step;
      const kept = goesOn ? past : [...past, now].slice(-STEPS);
      return unsaved({ ...state, past: kept, doc: event.doc, future: [], step: event.step });
    }
    case "undo": {
      const before = past.at(-1);
      if (!before) return state;
      const next = {
        past: past.slice(0, -1),
        doc: current(before, joined),
        future: [now, ...future],
      };
      return unsaved({ ...state, ...next, step: "" });
    }
    case "redo": {
      const [after, ...rest] = future;
      if (!after) return state;
      const next = { past: [...past, now], doc: current(after, joined), future: rest };
      return unsaved({ ...state, ...next, step: "" });
    }
    case "saving":
      return { ...state, saving: event.saving, refusal: event.refusal ?? "" };
    case "sent": {
      const again = state.unanswered.at(-1) === doc;
      const unanswered = again ? state.unanswered : [...state.unanswered, doc];
      return { ...state, saving: "saving", refusal: "", unanswered, tries: state.tries + 1 };
    }
    case "saved": {
      const { revision, faults, depending, document } = event.reply;
      const base = shared(doc, document);
      const settled = event.sent === doc;
      const next = { ...state, revision, faults, depending, base, unanswered: [] };
      return { ...next, doc: settled ? base : doc, saving: settled ? "saved" : "unsaved" };
    }
    case "theirs": {
      if (event.theirs.revision <= state.revision) return state;
      const ours = answered(state, event.theirs);
      if (ours) return ours;
      const { next, clashes: found } = join(state, event.theirs);
      return found.length ? { ...state, theirs: event.theirs, saving: "clash" } : next;
    }
    case "resolve": {
      if (!state.theirs) return state;
      const chosen = join(state, state.theirs, event.choose).next;
      const other: Choose = (path) => (event.choose(path) === "mine" ? "theirs" : "mine");
      const left = { doc: join(state, state.theirs, other).next.doc, seen: joined.length + 1 };
      return { ...chosen, past: [...past, left].slice(-STEPS), future: [] };
    }
  }
}

export function start({ document, revision, faults, depending }: Schema<"DraftOut">): State {
  return {
    past: [],
    doc: document,
    future: [],
    step: "",
    revision,
    base: document,
    joined: [],
    renamed: new Map(),
    stableKeys: new Map(),
    refusal: "",
    faults,
    depending,
    saving: "saved",
    tries: 0,
    unanswered: [],
    theirs: null,
  };
}

/** A version that was kept in this browser while the server was away. */
export interface Kept {
  revision: number;
  base: Doc;
  doc: Doc;
}

/** Go on from what was kept, with what the server has now. */
export function startFrom(opened: Schema<"DraftOut">, { revision, base, doc }: Kept): State {
  const state = { ...start(opened), revision, base, doc, saving: "unsaved" } as const;
  const before = { ...state, past: [{ doc: base, seen: 0 }] };
  return reduce(before, { kind: "theirs", theirs: opened });
}
