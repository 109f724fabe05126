/** What a line of the trail says, after who did it. */
import type { Schema } from "../../client/client";
import { onLastDay } from "../when";

type Mark = Schema<"TrailEntryOut">;
type Said = (detail: Record<string, unknown>, about: string) => string;

const text = (value: unknown) =>
  typeof value === "string" || typeof value === "number" ? String(value) : "";
const list = (value: unknown) => (Array.isArray(value) ? value.map(text).join(", ") : "");
const role = (value: unknown) => (value ? `as ${text(value)}` : "without a role for the office");
const a = (noun: string) => `${noun === "owner" ? "an" : "a"} ${noun}`;
const day = (value: unknown) => onLastDay(text(value));

const FACTORS: Record<string, string> = {
  codes: "one-time codes",
  recovery: "new codes for recovery",
  passkey: "a passkey",
  provider: "sign-in through the identity provider",
};

const WAYS: Record<string, string> = {
  password: "",
  code: " with a code",
  recovery: " with a code for recovery",
  passkey: " with a passkey",
  provider: " through the identity provider",
  link: " by a letter",
};

const SHARED: Record<string, string> = {
  made: "made a page to share,",
  changed: "changed the page to share",
  closed: "closed the page to share",
  opened: "opened again, at another address, the page to share",
  removed: "removed the page to share",
};

const ROUNDS: Record<string, string> = {
  made: "made",
  removed: "removed",
  stopped: "stopped everything of",
  going_on: "let everything go on of",
};

const LISTS: Record<string, string> = {
  made: "made",
  named: "named anew",
  removed: "removed",
  put_on: "put contacts on",
  taken_off: "took contacts off",
};

const SAID: Record<Mark["action"], Said> = {
  signed_in: (d) =>
    `signed in${WAYS[text(d["how"])] ?? ""}${d["client"] ? `, ${text(d["client"])}` : ""}${d["new"] ? ", a new device" : ""}`,
  sign_in_slowed: (_, about) => `many wrong tries to sign in as ${about}`,
  sessions_ended: (d, about) =>
    d["count"] === "all" ? `ended every session${about ? ` of ${about}` : ""}` : "ended a session",
  password_changed: (d) => `set a new password${d["by"] === "letter" ? " by a letter" : ""}`,
  reset_asked: (_, about) => `a new password for ${about} was asked for`,
  factor_added: (d) => `set up ${FACTORS[text(d["kind"])] ?? "a second factor"}`,
  factor_removed: (d) => `removed ${FACTORS[text(d["kind"])] ?? "a second factor"}`,
  factors_reset: (_, about) => `took away the second factors of ${about}`,
  recovery_code_used: (d) => `used a code for recovery, ${text(d["left"])} are left`,
  token_made: (d) => `made the token ${text(d["name"])} for ${list(d["scopes"])}`,
  token_ended: () => "ended a token",
  invited: (d, about) =>
    d["again"] ? `sent ${about} another invitation` : `invited ${about} ${role(d["role"])}`,
  joined: () => "came in for the first time",
  person_changed: (d, about) =>
    `changed ${about}: ${role(d["role"])}${d["until"] ? `, until ${day(d["until"])}` : ""}`,
  person_left: (d, about) =>
    `closed the account of ${about}${d["to"] ? `, whose parts went to ${text(d["to"])}` : ""}`,
  team_made: (d) => `made the team ${text(d["name"])}`,
  team_changed: (d) => `changed the team ${text(d["name"])}`,
  team_removed: (d) => `removed the team ${text(d["name"])}`,
  office_changed: (d) => `changed the office: ${list(d["settings"]).replaceAll("_", " ")}`,
  part_given: (d) => `made ${text(d["name"])} ${a(text(d["role"]))}`,
  part_taken: (d, about) => `took away the part of ${about || "a team"} (${text(d["role"])})`,
  clearance_given: (d, about) =>
    `gave ${about} clearance${d["until"] ? ` until ${day(d["until"])}` : ""}${d["asks_reason"] ? ", with a reason each time" : ""}`,
  clearance_ended: (_, about) => `ended the clearance of ${about}`,
  created: () => "started the questionnaire",
  published: (d) => `published edition ${text(d["edition"])}`,
  gate_changed: (d) => `set the gate to ${text(d["state"])}`,
  entry_handled: (d) =>
    [
      "archived" in d ? (d["archived"] ? "archived" : "took out of the archive") : "",
      "status" in d ? `set to ${text(d["status"]) || "no status"}` : "",
      "value" in d ? `set the carried value ${text(d["value"])} of` : "",
      "care" in d ? `had ${text(d["care"]) || "nobody"} take care of` : "",
    ]
      .filter(Boolean)
      .join(" and ") + ` entry ${text(d["number"])}`,
  entry_changed: (d) => `whoever sent entry ${text(d["number"])} changed it`,
  entry_anonymised: () => "anonymised an entry",
  entry_entered: () => "entered an entry for somebody",
  statuses_changed: () => "changed the statuses of entries",
  entry_deleted: (d) => `deleted entry ${text(d["number"])}`,
  dispatch_changed: () => "changed the dispatch rules",
  run_again: () => "had dispatch do something again",
  run_skipped: ({ reason }) => `skipped what dispatch had not done: ${String(reason)}`,
  sending_paused: () => "paused all sending",
  sending_resumed: () => "went on sending",
  hook_added: ({ name, cleared }) =>
    `had dispatch know ${String(name)}, a system to call${cleared ? " with restricted answers" : ""}`,
  hook_changed: ({ name, cleared }) =>
    `changed ${String(name)}, a system to call${cleared ? " with restricted answers" : ""}`,
  hook_secret_made: ({ name }) => `made a new secret for ${String(name)}`,
  hook_removed: ({ name }) => `removed ${String(name)}, a system to call`,
  replayed: (d) => `replayed the rules on past entries: ${text(d["entries"])}`,
  register_created: (d) => `made the register ${text(d["name"])}`,
  register_changed: (d) =>
    "cleared" in d
      ? `${d["cleared"] ? "let" : "no longer let"} the register ${text(d["name"])} hold restricted answers`
      : `changed the columns of the register ${text(d["name"])}`,
  register_removed: (d) =>
    `deleted the register ${text(d["name"])} with its rows: ${text(d["count"])}`,
  rows_removed: (d) => `deleted rows of a register: ${text(d["count"])}`,
  rows_restored: (d) => `put rows of a register back: ${text(d["count"])}`,
  rows_brought: (d) => `imported rows into a register: ${text(d["count"])}`,
  entries_exported: (d) => `exported entries: ${text(d["count"])}`,
  rows_exported: (d) => `exported rows of a register: ${text(d["count"])}`,
  link_made: (d) => `made the link ${text(d["name"])}`,
  link_changed: (d) => `set the link ${text(d["name"])} to ${text(d["state"])}`,
  link_key_made: (d) => `made the key ${text(d["key"])} for links of other programs`,
  link_key_ended: (d) => `ended the key ${text(d["key"])} for links of other programs`,
  links_changed: () => "changed where people go on, or which sites may frame the page",
  passes_made: (d) => `made ${text(d["count"])} passes: ${text(d["name"])}`,
  passes_revoked: (d) => `revoked ${text(d["count"])} passes: ${text(d["name"])}`,
  passes_exported: (d) => `read the links of the passes ${text(d["name"])}`,
  contacts_brought: (d) =>
    `brought contacts in: ${text(d["added"])} new, ${text(d["changed"])} brought up to date`,
  contact_changed: (d) =>
    d["state"] === "added"
      ? "added a contact"
      : d["state"] === "merged"
        ? "made one contact of two"
        : `changed a contact: ${list(d["fields"])}`,
  person_exported: () => "took out what is kept of one person",
  person_erased: (d) =>
    `erased what was kept of one person: ${text(d["entries"])} entries, ${text(d["rows"])} rows, ${text(d["contacts"])} contacts`,
  contacts_removed: (d) => `took ${text(d["count"])} contacts out`,
  contacts_exported: (d) => `exported ${text(d["count"])} contacts`,
  contact_fields_changed: (d) => `changed the field ${text(d["name"])} of contacts`,
  list_changed: (d) => `${LISTS[text(d["state"])] ?? "changed"} the list ${text(d["name"])}`,
  opted_out: (d) =>
    d["state"] === "out" ? "marked as opted out of letters" : "marked as to be written to again",
  sign_in_changed: (d) => `${text(d["state"])} the sign-in ${text(d["name"])} for visitors`,
  letters_asked: (d) => `sent the letter ${text(d["name"])} off`,
  letters_held: (d) =>
    `${d["state"] === "held" ? "held" : "let go on"} the letter ${text(d["name"])}`,
  page_shared: (d) => `${SHARED[text(d["state"])] ?? "changed"} ${text(d["title"])}`,
  round_changed: (d) => `${ROUNDS[text(d["state"])] ?? "changed"} the round ${text(d["name"])}`,
  round_drawn: (d) => `drew ${text(d["count"])} people for the round ${text(d["name"])}`,
  round_printed: (d) => `printed ${text(d["count"])} letters of ${text(d["name"])}`,
  round_released: (d) => `released ${text(d["count"])} people of the round ${text(d["name"])}`,
  round_step: (d) => `the step ${text(d["name"])} went to ${text(d["count"])} people`,
  round_coded: (d) =>
    `set how somebody stands in a round to ${text(d["state"])}${d["reason"] ? `: “${text(d["reason"])}”` : ""}`,
  set_free: (d) => `set free what depends on restricted answers: ${list(d["keys"])}`,
  restricted_sent: (d) => `restricted answers were sent to ${text(d["name"])}: ${list(d["keys"])}`,
  restricted_seen: (d) =>
    `saw restricted answers of ${d["row"] ? `row ${text(d["row"])} of a register` : `entry ${text(d["number"])}`}${d["keys"] ? ` (${list(d["keys"])})` : ""}` +
    `${d["token"] ? `, by the token ${text(d["token"])}` : ""}${d["reason"] ? `: “${text(d["reason"])}”` : ""}`,
  trail_exported: () => "exported the trail",
};

export const said = (mark: Mark): string => SAID[mark.action](mark.detail, mark.about);
