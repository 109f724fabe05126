/** A letter: to whom, in which words, and when. */
import { useState } from "react";

import { Field } from "../../ui/Field";
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { holdsOf } from "../condition/words";
import { languageName } from "../languages";
import type { EditorProps } from "./editors";
import { Line, Stack } from "./kit";
import type { Notice } from "./rules";
import { WrittenWords } from "./WrittenWords";

const WHOM = [
  { code: "address", label: "the address" },
  { code: "team", label: "everybody of" },
  { code: "answer", label: "the address that was given under" },
];

const WHEN = [
  { code: "at_once", label: "at once" },
  { code: "hourly", label: "gathered, once an hour" },
  { code: "daily", label: "gathered, once a day at 7:00" },
];

function begun(kind: string): Notice["to"] {
  if (kind === "team") return { kind: "team", team_id: "" };
  return kind === "answer" ? { kind: "answer", name: "" } : { kind: "address", address: "" };
}

function Whom({ act, subjects, teams, onChange }: EditorProps<Notice>) {
  const { to } = act;
  const set = (next: Notice["to"]) => onChange({ ...act, to: next });
  const addresses = subjects.filter((one) => one.kind === "email" || holdsOf(one) === "text");
  return (
    <Line>
      Notice to
      <Picker
        inline
        label="To whom"
        options={teams.length ? WHOM : WHOM.filter(({ code }) => code !== "team")}
        value={to.kind}
        onChange={(kind) => set(begun(kind))}
      />
      {to.kind === "address" ? (
        <InSentence
          name="Mail address"
          type="text"
          size={30}
          placeholder="somebody@example.org"
          value={to.address}
          onChange={(address) => set({ kind: "address", address })}
        />
      ) : null}
      {to.kind === "team" ? (
        <Picker
          inline
          label="Team"
          options={teams}
          value={to.team_id || null}
          onChange={(team_id) => set({ kind: "team", team_id })}
        />
      ) : null}
      {to.kind === "answer" ? (
        <Picker
          inline
          label="The answer that is the address"
          options={addresses.map(({ key, label }) => ({ code: key, label, detail: key }))}
          value={to.name || null}
          onChange={(name) => set({ kind: "answer", name })}
        />
      ) : null}
    </Line>
  );
}

function When({ act, onChange }: EditorProps<Notice>) {
  const { quiet } = act;
  const set = (change: Partial<NonNullable<Notice["quiet"]>>) =>
    quiet && onChange({ ...act, quiet: { ...quiet, ...change } });
  return (
    <Line>
      It goes out
      <Picker
        inline
        label="When it goes out"
        options={WHEN}
        value={act.gathered ?? "at_once"}
        onChange={(gathered) => onChange({ ...act, gathered: gathered as "at_once" })}
      />
      <Picker
        inline
        label="Quiet hours"
        options={[
          { code: "any", label: "at any hour" },
          { code: "quiet", label: "but not between" },
        ]}
        value={quiet ? "quiet" : "any"}
        onChange={(how) =>
          onChange({ ...act, quiet: how === "any" ? null : { start: "21:00", end: "07:00" } })
        }
      />
      {quiet ? (
        <>
          <InSentence
            name="Nothing is sent from"
            type="time"
            value={quiet.start.slice(0, 5)}
            onChange={(start) => start && set({ start })}
          />
          and
          <InSentence
            name="Nothing is sent until"
            type="time"
            value={quiet.end.slice(0, 5)}
            onChange={(end) => end && set({ end })}
          />
        </>
      ) : null}
    </Line>
  );
}

export function NoticeEditor(props: EditorProps<Notice>) {
  const { act, subjects, parts, languages, onChange } = props;
  const [language, setLanguage] = useState(languages[0] ?? "en");
  const put = (name: "subject" | "body", said: string) => {
    const rest = Object.entries(act[name] ?? {}).filter(([code]) => code !== language);
    const next = said ? [...rest, [language, said] as const] : rest;
    onChange({ ...act, [name]: Object.fromEntries(next) });
  };
  return (
    <Stack>
      <Whom {...props} />
      {languages.length > 1 && act.to.kind === "answer" ? (
        <Line>
          Written in
          <Picker
            inline
            label="Language of the words"
            options={languages.map((code) => ({ code, label: languageName(code) }))}
            value={language}
            onChange={setLanguage}
          />
          and sent in the language of whoever answered
        </Line>
      ) : null}
      <Field
        label="Subject"
        value={act.subject?.[language] ?? ""}
        onChange={(said) => put("subject", said)}
        dir="auto"
      />
      <WrittenWords
        label="Words"
        help="**bold**, - lists and [words](https://…) are shown as such"
        lines={8}
        value={act.body?.[language] ?? ""}
        subjects={subjects}
        parts={parts}
        onChange={(said) => put("body", said)}
      />
      <Toggle isSelected={act.whole ?? false} onChange={(whole) => onChange({ ...act, whole })}>
        Everything that was answered below the words
      </Toggle>
      <Toggle
        isSelected={act.printed ?? false}
        onChange={(printed) => onChange({ ...act, printed })}
      >
        Everything that was answered as a PDF, attached
      </Toggle>
      <When {...props} />
    </Stack>
  );
}
