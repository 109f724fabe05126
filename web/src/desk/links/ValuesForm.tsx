/** Choosing what a link brings: by the words that the questionnaire knows. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import type { Doc } from "../document";
import { isCarriedSlot, verdict, type Slot, type Values } from "./values";

const Rows = styled.div`
  display: grid;
  gap: 14px;
`;

const Row = styled.div`
  display: grid;
  gap: 3px;
  max-width: 560px;
`;

const LEFT_OUT = " ";

interface ValuesProps {
  doc: Doc;
  slots: readonly Slot[];
  stored: boolean;
  values: Values;
  onChange: (values: Values) => void;
  errorAt?: (name: string) => string | undefined;
}

interface OneProps {
  doc: Doc;
  slot: Slot;
  stored: boolean;
  text: string;
  error: string | undefined;
  onChange: (text: string) => void;
}

function One({ doc, slot, stored, text, error, onChange }: OneProps) {
  const { label, options } = slot;
  return (
    <Row>
      {options.length ? (
        <Picker
          label={label}
          options={[{ code: LEFT_OUT, label: "Left out" }, ...options]}
          value={text || LEFT_OUT}
          onChange={(code) => onChange(code === LEFT_OUT ? "" : code)}
        />
      ) : (
        <Field label={label} value={text} maxLength={2000} error={error} onChange={onChange} />
      )}
      {options.length && error ? <b role="alert">{error}</b> : null}
      {text ? <Quiet>{verdict(doc, slot, stored)}</Quiet> : null}
    </Row>
  );
}

export function ValuesForm({ doc, slots, stored, values, onChange, errorAt }: ValuesProps) {
  const [added, setAdded] = useState<readonly string[]>([]);
  const textOf = (name: string) => values.find(([known]) => known === name)?.[1] ?? "";
  const put = (name: string, text: string) => {
    const others = values.filter(([known]) => known !== name);
    onChange(text ? [...others, [name, text]] : others);
  };
  const standing = slots.filter(
    (slot) => isCarriedSlot(slot) || added.includes(slot.name) || textOf(slot.name),
  );
  const left = slots.filter((slot) => !standing.includes(slot));
  return (
    <Rows>
      {standing.map((slot) => (
        <One
          key={slot.name}
          doc={doc}
          slot={slot}
          stored={stored}
          text={textOf(slot.name)}
          error={errorAt?.(slot.name)}
          onChange={(text) => put(slot.name, text)}
        />
      ))}
      {left.length ? (
        <Row>
          <Picker
            label="Fill in an answer beforehand"
            placeholder="choose a question"
            options={left.map(({ name, label }) => ({ code: name, label, detail: name }))}
            value={null}
            onChange={(name) => setAdded([...added, name])}
          />
        </Row>
      ) : null}
      {values.length ? (
        <div>
          <Button
            weight="word"
            onPress={() => {
              setAdded([]);
              onChange([]);
            }}
          >
            Clear all values
          </Button>
        </div>
      ) : null}
    </Rows>
  );
}
