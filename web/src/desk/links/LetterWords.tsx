/** The words of a letter to contacts, in each language. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { BUILT_IN, contactFields } from "../contacts/data";
import { languageName } from "../languages";

export type Text = Record<string, string>;

interface WordsProps {
  languages: readonly string[];
  subject: Text;
  body: Text;
  onSubject: (text: Text) => void;
  onBody: (text: Text) => void;
  errorAt: (at: string) => string | undefined;
}

export function LetterWords({ languages, subject, body, onSubject, onBody, errorAt }: WordsProps) {
  const own = useQuery(contactFields).data ?? [];
  const [language, setLanguage] = useState(languages[0] ?? "en");
  const fields = [...BUILT_IN, ...own];
  return (
    <>
      {languages.length > 1 ? (
        <p>
          In{" "}
          <Choose
            name="Language of the letter"
            value={language}
            options={languages.map((code) => ({ code, label: languageName(code) }))}
            onChange={setLanguage}
          />
          , for contacts with that language. Without words of their own they get the first one.
        </p>
      ) : null}
      <Field
        key={`subject ${language}`}
        label="Subject"
        lang={language}
        dir="auto"
        value={subject[language] ?? ""}
        maxLength={200}
        error={errorAt(`subject/${language}`)}
        onChange={(text) => onSubject({ ...subject, [language]: text })}
      />
      <Field
        key={`body ${language}`}
        label="Letter"
        lines={10}
        lang={language}
        dir="auto"
        value={body[language] ?? ""}
        help={`{link} is each one’s own link; left out, it stands at the end. What is known of the contact: ${fields.map(({ key }) => `{contact.${key}}`).join(", ")}. Words for when there is none stand behind a bar: {contact.name|neighbour}.`}
        error={errorAt(`body/${language}`)}
        onChange={(text) => onBody({ ...body, [language]: text })}
      />
    </>
  );
}
