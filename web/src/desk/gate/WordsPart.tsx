/** What people read who are not let in, for each reason, in each language. */
import { useState } from "react";

import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { languageName } from "../languages";
import { partsOf, REASONS, type Gate, type Reason } from "./data";
import { Part, Sentence } from "./Part";

interface WordsProps {
  gate: Gate;
  /** Our own words, in English. */
  own: Readonly<Record<string, string>>;
  languages: readonly string[];
  writes: boolean;
  faultAt: (at: string) => string | undefined;
  onChange: (change: Partial<Gate>) => void;
}

const CODES = Object.keys(REASONS) as Reason[];

export function WordsPart({ gate, own, languages, writes, faultAt, onChange }: WordsProps) {
  const { words } = partsOf(gate);
  const [reason, setReason] = useState<Reason>("shut");
  const [language, setLanguage] = useState(languages[0] ?? "en");
  const text = words[reason] ?? {};
  const written = CODES.filter((code) => Object.keys(words[code] ?? {}).length);
  const put = (said: string) => {
    const others = Object.entries(text).filter(([code]) => code !== language);
    const next = said.trim() ? [...others, [language, said] as const] : others;
    const rest = Object.entries(words).filter(([code]) => code !== reason);
    const changed = next.length ? [...rest, [reason, Object.fromEntries(next)] as const] : rest;
    onChange({ words: Object.fromEntries<Record<string, string>>(changed) });
  };
  return (
    <Part title="What people read">
      <Sentence>
        When it is
        <Picker
          inline
          label="Reason"
          value={reason}
          options={CODES.map((code) => ({
            code,
            label: REASONS[code],
            ...(written.includes(code) ? { detail: "your own words" } : {}),
          }))}
          onChange={(code) => setReason(code as Reason)}
        />
        {languages.length > 1 ? (
          <>
            in
            <Picker
              inline
              label="Language"
              value={language}
              options={languages.map((code) => ({ code, label: languageName(code) }))}
              onChange={setLanguage}
            />
          </>
        ) : null}
      </Sentence>
      {writes ? (
        <Field
          label={`${REASONS[reason]}: your own words`}
          help={`Left empty, it says: ${own[reason] ?? ""}`}
          error={faultAt(`words/${reason}/${language}`)}
          lines={3}
          value={text[language] ?? ""}
          onChange={put}
          maxLength={10_000}
          dir="auto"
        />
      ) : (
        <p>{text[language] ?? own[reason]}</p>
      )}
      <Quiet>
        {"{opens}"} is when it opens again, {"{ask}"} whom to ask, {"{place}"} the place on the
        waiting list.
      </Quiet>
    </Part>
  );
}
