/** What is set, or who is put on a list, in words: in rules, and of one entry. */
import type { Schema } from "../../client/client";
import type { Around } from "./editors";
import type { Source } from "./rules";
import type { SetAct } from "./SetEditor";

type Effect = Schema<"Rehearsal">["effects"][number];
export type SetEffect = Extract<Effect, { kind: SetAct["kind"] }>;

const labelIn = (known: readonly { code: string; label: string }[], code: string) =>
  known.find((one) => one.code === code)?.label;

const itemName = (name: string, { subjects, parts }: Around) =>
  subjects.find(({ key }) => key === name)?.label ?? labelIn(parts, name) ?? name;

function sourceWords(source: Source, around: Around): string {
  if (source.kind !== "entry") return `“${source.text}”`;
  return source.name ? itemName(source.name, around) : "something not chosen yet";
}

export const statusWords = (status: string, { statuses }: Around) =>
  statuses.find(({ code }) => code === status)?.name;

interface Who {
  person: string | null | undefined;
  team: string | null | undefined;
  inTurn: boolean;
}

function carer({ person, team, inTurn }: Who, { people, teams }: Around): string {
  const name = person ? (labelIn(people, person) ?? "somebody who has left") : "";
  const of = team ? (labelIn(teams, team) ?? "that is gone") : "";
  if (!of) return name || "nobody chosen yet";
  if (!inTurn) return `team ${of}`;
  return name ? `${name}, whose turn it is in team ${of}` : `one of team ${of}, in turn`;
}

/** The sentence of an act, behind "Set". */
export function setWords(act: SetAct, around: Around) {
  switch (act.kind) {
    case "status":
      return (
        <>
          status <b>{statusWords(act.status, around) ?? "not chosen yet"}</b>
        </>
      );
    case "care": {
      const { who } = act;
      const person = who.kind === "person" ? who.person_id : null;
      const team = who.kind === "team" ? who.team_id : null;
      const inTurn = who.kind === "team" && (who.in_turn ?? false);
      return (
        <>
          taken care of by <b>{carer({ person, team, inTurn }, around)}</b>
        </>
      );
    }
    case "contact":
      return (
        <>
          <b>{labelIn(around.contactFields, act.field) ?? (act.field || "no field yet")}</b> of the
          contact to {sourceWords(act.source, around)}
        </>
      );
    case "value":
      return (
        <>
          <b>{act.key ? itemName(act.key, around) : "no carried value yet"}</b> to{" "}
          {sourceWords(act.source, around)}
        </>
      );
    case "list":
      return (
        <>
          to the list <b>{labelIn(around.lists, act.list_id) ?? "not chosen yet"}</b>, with consent
          by {act.consent ? itemName(act.consent, around) : "a question not chosen yet"}
          {act.confirm ? ", once they say yes to a letter" : ""}
        </>
      );
  }
}

/** What an effect sets, in one line. */
export function setLine(effect: SetEffect, around: Around): string {
  switch (effect.kind) {
    case "status":
      return `Status ${statusWords(effect.status, around) ?? effect.status}`;
    case "care": {
      const { person_id: person, team_id: team, in_turn: inTurn } = effect;
      return `Taken care of by ${carer({ person, team, inTurn }, around)}`;
    }
    case "contact": {
      const name = labelIn(around.contactFields, effect.field) ?? effect.field;
      return `${name} of the contact: ${from(effect.before)}${effect.value}`;
    }
    case "value":
      return `${itemName(effect.key, around)}: ${from(effect.before)}${effect.value}`;
    case "list": {
      const who = effect.email ? effect.name || effect.email : "The contact";
      const list = labelIn(around.lists, effect.list_id) ?? "that is gone";
      return effect.confirm
        ? `${who} asked by letter whether to be on the list ${list}`
        : `${who} on the list ${list}`;
    }
  }
}

const from = (before: string) => (before ? `${before} → ` : "");
