/** Adding a language: one of those that the page itself speaks, or any other by its tag. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Sheet, Actions } from "../../ui/Sheet";
import type { Doc } from "../document";
import { autonym } from "./lines";

/** The languages in which the answering page has words of its own. */
const SPOKEN = ["en", "es", "ar"];

const Offered = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;

export function AddLanguage({ doc, onAdd }: { doc: Doc; onAdd: (language: string) => void }) {
  const [tag, setTag] = useState<string | null>(null);
  const known = doc.languages ?? [];
  const add = (language: string) => {
    onAdd(language);
    setTag(null);
  };
  const wellFormed = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(tag ?? "");
  const error = !tag
    ? undefined
    : known.includes(tag)
      ? "It is there already."
      : wellFormed
        ? undefined
        : "Two or three small letters, such as cy, perhaps with a region: pt-BR.";
  return (
    <>
      <Button onPress={() => setTag("")}>Add a language</Button>
      <Sheet title="Add a language" open={tag !== null} onClose={() => setTag(null)}>
        <Offered>
          {SPOKEN.filter((code) => !known.includes(code)).map((code) => (
            <Button key={code} onPress={() => add(code)}>
              {`${autonym(code)} (${code})`}
            </Button>
          ))}
        </Offered>
        <p>
          In these the page has its own words: buttons, and what it says of a wrong answer. In any
          other those are English.
        </p>
        <Field
          label="Another one, by its BCP 47 tag"
          value={tag ?? ""}
          error={error}
          help={tag && !error ? autonym(tag) : "Such as cy for Welsh."}
          onChange={setTag}
        />
        <Actions>
          <Button onPress={() => setTag(null)}>Cancel</Button>
          <Button
            weight="main"
            isDisabled={!tag || Boolean(error)}
            onPress={() => (tag ? add(tag) : undefined)}
          >
            Add it
          </Button>
        </Actions>
      </Sheet>
    </>
  );
}
