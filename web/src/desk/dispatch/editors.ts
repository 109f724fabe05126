/** What every editor of an act is given. */
import type { Schema } from "../../client/client";
import type { Subject } from "../subjects";
import type { Register } from "./rules";
import type { Part, rostersOf } from "./subjects";

/** What rules can name. */
export interface Around {
  subjects: readonly Subject[];
  parts: readonly Part[];
  rosters: ReturnType<typeof rostersOf>;
  languages: readonly string[];
  known: readonly Register[];
  teams: readonly Part[];
  hooks: readonly Schema<"HookOut">[];
  statuses: readonly Schema<"RuleChoice">[];
  /** Who may see the entries, and so take care of them. */
  people: readonly Part[];
  contactFields: readonly Part[];
  lists: readonly Part[];
  /** The questions that are restricted. */
  restricted: readonly Part[];
  /** The values that are carried and not restricted. */
  carried: readonly Subject[];
}

export interface EditorProps<A> extends Around {
  act: A;
  onChange: (act: A) => void;
}
