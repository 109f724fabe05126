/** Puts a slot for an answer into a text: what it is, in which form, and what is said instead. */
import { useState } from "react";

import { Button } from "../../ui/Button";
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { holdsOf } from "../condition/words";
import type { Subject } from "../subjects";
import { Line } from "./kit";
import type { Part } from "./subjects";

interface Form {
  code: string;
  label: string;
}

const PLAIN: Form = { code: "", label: "as it reads" };
const OF_DAYS: Form[] = [
  { code: "weekday", label: "with the day of the week" },
  { code: "short", label: "short" },
  { code: "iso", label: "as 2026-03-01" },
];
const OF_NUMBERS: Form[] = [
  { code: "whole", label: "rounded" },
  { code: "grouped", label: "with thousands apart" },
];
const OF_PICKS: Form[] = [
  { code: "list", label: "as a list" },
  { code: "code", label: "as codes" },
];

/** The forms that what a subject holds can be said in. */
export function formsOf(subject: Subject | undefined): Form[] {
  const held = subject ? holdsOf(subject) : "text";
  const own: Partial<Record<typeof held, Form[]>> = {
    day: OF_DAYS,
    moment: OF_DAYS,
    number: OF_NUMBERS,
    picks: OF_PICKS,
    order: OF_PICKS,
    pick: [{ code: "code", label: "as its code" }],
    text: [{ code: "line", label: "on one line" }],
  };
  return [PLAIN, ...(own[held] ?? [])];
}

const ABOUT: Part[] = [
  { code: "entry_number", label: "Number of the entry" },
  { code: "questionnaire", label: "Title of the questionnaire" },
];

interface SlotAdderProps {
  subjects: readonly Subject[];
  parts: readonly Part[];
  onAdd: (slot: string) => void;
}

export function SlotAdder({ subjects, parts, onAdd }: SlotAdderProps) {
  const [name, setName] = useState<string | null>(null);
  const [form, setForm] = useState("");
  const [instead, setInstead] = useState("");
  const forms = formsOf(subjects.find(({ key }) => key === name));
  const options = [
    ...subjects.map(({ key, label }) => ({ code: key, label, detail: key })),
    ...[...parts, ...ABOUT].map(({ code, label }) => ({ code, label, detail: code })),
  ];
  return (
    <Line>
      <Quiet>Put in</Quiet>
      <Picker
        inline
        label="An answer to put in"
        placeholder="an answer"
        options={options}
        value={name}
        onChange={(next) => {
          setName(next);
          setForm("");
        }}
      />
      {forms.length > 1 ? (
        <Picker
          inline
          label="The form of the answer"
          options={forms}
          value={form}
          onChange={setForm}
        />
      ) : null}
      <Quiet>or, where it is empty,</Quiet>
      <InSentence
        name="What is said where it is empty"
        type="text"
        placeholder="nothing"
        size={12}
        value={instead}
        onChange={(next) => setInstead(next.replaceAll(/[{}|]/g, ""))}
      />
      <Button
        isDisabled={!name}
        onPress={() => {
          onAdd(`{${name}${form ? `:${form}` : ""}${instead ? `|${instead}` : ""}}`);
          setInstead("");
        }}
      >
        Put it in
      </Button>
    </Line>
  );
}
