/** What a rule does, in words. */
import { count } from "../document";
import type { Around } from "./editors";
import type { Act, File, Notice } from "./rules";
import { setWords } from "./setWords";

export const ACTS: Record<Act["kind"], string> = {
  file: "File",
  notice: "Notice",
  call: "Call",
  status: "Set",
  care: "Set",
  contact: "Set",
  value: "Set",
  list: "Add",
};

function fileWords(act: File, { known, rosters }: Around) {
  const register = known.find(({ id }) => id === act.register_id);
  const roster = rosters.find(({ code }) => code === act.per);
  const label = (key: string) => register?.columns.find((one) => one.key === key)?.label ?? key;
  return (
    <>
      to register <b>{register?.name ?? "that is gone"}</b>,{" "}
      {count(Object.keys(act.columns ?? {}).length, "column")}
      {roster ? <>, a row for each of {roster.label}</> : null}
      {act.kept?.length ? <>, with {count(act.kept.length, "restricted answer")}</> : null}
      {act.matching ? (
        <>, brought up to date by {act.matching.columns.map(label).join(", ")}</>
      ) : null}
    </>
  );
}

function whom({ to }: Notice, { teams, subjects }: Around): string {
  if (to.kind === "address") return to.address || "nobody yet";
  if (to.kind === "team")
    return teams.find(({ code }) => code === to.team_id)?.label ?? "a team that is gone";
  return subjects.find(({ key }) => key === to.name)?.label ?? (to.name || "nobody yet");
}

const LATER = { at_once: "", hourly: ", gathered by the hour", daily: ", gathered by the day" };

export function actWords(act: Act, around: Around) {
  switch (act.kind) {
    case "file":
      return fileWords(act, around);
    case "notice": {
      const subject = act.subject?.[around.languages[0] ?? "en"];
      return (
        <>
          to <b>{whom(act, around)}</b>: {subject ? <>&ldquo;{subject}&rdquo;</> : "no subject yet"}
          {LATER[act.gathered ?? "at_once"]}
        </>
      );
    }
    case "call":
      return (
        <b>{around.hooks.find(({ id }) => id === act.hook_id)?.name ?? "something that is gone"}</b>
      );
    default:
      return setWords(act, around);
  }
}
