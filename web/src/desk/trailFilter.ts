/** The filter of the trail as it stands in the address. */
import type { Schema } from "../client/client";
import type { TrailFilter } from "./data";

export type Action = Schema<"TrailEntryOut">["action"];

/** What each line of the trail can be about, and its kind in words. */
export const ACTIONS: Record<Action, string> = {
  restricted_seen: "Restricted answers seen",
  restricted_sent: "Restricted answers sent to another system",
  signed_in: "Signed in",
  sign_in_slowed: "Sign-in slowed",
  sessions_ended: "Sessions ended",
  password_changed: "Password changed",
  reset_asked: "New password asked for",
  factor_added: "Second factor added",
  factor_removed: "Second factor removed",
  factors_reset: "Second factors taken away",
  recovery_code_used: "Code for recovery used",
  token_made: "Token made",
  token_ended: "Token ended",
  invited: "Invited",
  joined: "Joined",
  person_changed: "Person changed",
  person_left: "Person left",
  team_made: "Team made",
  team_changed: "Team changed",
  team_removed: "Team removed",
  office_changed: "Office changed",
  part_given: "Part given",
  part_taken: "Part taken away",
  clearance_given: "Clearance given",
  clearance_ended: "Clearance ended",
  created: "Questionnaire started",
  published: "Published",
  page_shared: "Page to share",
  gate_changed: "Gate changed",
  entry_deleted: "Entry deleted",
  entry_handled: "Entry handled",
  entry_changed: "Entry changed by its sender",
  entry_anonymised: "Entry anonymised",
  entry_entered: "Entry entered by staff",
  statuses_changed: "Statuses changed",
  dispatch_changed: "Dispatch changed",
  run_again: "Dispatch done again",
  run_skipped: "Dispatch skipped",
  sending_paused: "Sending paused",
  sending_resumed: "Sending resumed",
  hook_added: "System to call added",
  hook_changed: "System to call changed",
  hook_secret_made: "Secret of a system made",
  hook_removed: "System to call removed",
  replayed: "Rules replayed",
  register_created: "Register made",
  register_changed: "Columns of a register changed",
  register_removed: "Register deleted",
  rows_removed: "Rows deleted",
  rows_restored: "Rows put back",
  rows_brought: "Rows imported",
  rows_exported: "Rows exported",
  entries_exported: "Entries exported",
  link_made: "Link made",
  link_changed: "Link changed",
  link_key_made: "Key for links made",
  link_key_ended: "Key for links ended",
  links_changed: "Links settings changed",
  passes_made: "Passes made",
  passes_revoked: "Passes revoked",
  passes_exported: "Links of passes read",
  contacts_brought: "Contacts brought in",
  contact_changed: "Contact changed",
  person_exported: "One person's data taken out",
  person_erased: "One person's data erased",
  contacts_removed: "Contacts taken out",
  contacts_exported: "Contacts exported",
  contact_fields_changed: "Fields of contacts changed",
  list_changed: "Contact list changed",
  opted_out: "Opted out",
  sign_in_changed: "Sign-in for visitors changed",
  letters_asked: "Letters sent off",
  letters_held: "Letters held",
  round_changed: "Round changed",
  round_drawn: "People drawn for a round",
  round_printed: "Letters of a round printed",
  round_released: "People of a round released",
  round_step: "Step of a round went",
  round_coded: "Disposition by hand",
  set_free: "Set free",
  trail_exported: "Trail exported",
};

export interface TrailSearch {
  person?: string;
  questionnaire?: string;
  register?: string;
  entry?: string;
  action?: Action;
  /** The key of a restricted answer. */
  answer?: string;
  /** Days, as YYYY-MM-DD. */
  from?: string;
  to?: string;
}

const DAY = /^\d{4}-\d{2}-\d{2}$/;
const ID = /^[0-9a-f-]{36}$/;

function known(action: unknown): action is Action {
  return typeof action === "string" && action in ACTIONS;
}

/** What of an address can be asked for; the rest is left out. */
export function filterOf(search: Record<string, unknown>): TrailSearch {
  const found: TrailSearch = {};
  for (const name of ["person", "questionnaire", "register", "entry"] as const) {
    const value = search[name];
    if (typeof value === "string" && ID.test(value)) found[name] = value;
  }
  if (known(search["action"])) found.action = search["action"];
  if (typeof search["answer"] === "string") found.answer = search["answer"];
  for (const name of ["from", "to"] as const) {
    const value = search[name];
    if (typeof value === "string" && DAY.test(value)) found[name] = value;
  }
  return found;
}

const midnight = (day: string, later = 0) => {
  const at = new Date(`${day}T00:00:00`);
  at.setDate(at.getDate() + later);
  return at.toISOString();
};

/** The same as the server is asked; days are those of the reader. */
export function asked(search: TrailSearch): TrailFilter {
  const { person, questionnaire, register, entry, action, answer, from, to } = search;
  return {
    ...(person ? { person } : {}),
    ...(questionnaire ? { questionnaire } : {}),
    ...(register ? { register } : {}),
    ...(entry ? { entry } : {}),
    ...(action ? { action: [action] } : {}),
    ...(answer ? { key: answer } : {}),
    ...(from ? { since: midnight(from) } : {}),
    ...(to ? { until: midnight(to, 1) } : {}),
  };
}
