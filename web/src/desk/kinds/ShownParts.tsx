/** Options and rows that are shown under a condition. */
import styled from "styled-components";

import { Picker } from "../../ui/Picker";
import { ConditionEditor } from "../condition/ConditionEditor";
import { BLANK } from "../condition/edit";
import { optionsOf, say, type Condition, type Doc, type Item } from "../document";
import { type Subject } from "../subjects";
import type { Change } from "./setting";
import { Section } from "../shell/Section";

const List = styled.ul`
  display: grid;
  gap: 12px;
  > li {
    display: grid;
    gap: 4px;
    border-inline-start: 2px solid var(--line-2);
    padding-inline-start: 10px;
  }
`;

interface ShownPartsProps {
  item: Item;
  doc: Doc;
  subjects: readonly Subject[];
  onChange: Change;
}

/** The list whose members can be shown under a condition, and what it is called. */
function partsOf(item: Item) {
  if (item.kind === "grid") return { name: "rows" as const, noun: "row", parts: item.rows ?? [] };
  const noun = "option";
  return { name: "options" as const, noun, parts: [...optionsOf(item)] };
}

export function ShownParts({ item, doc, subjects, onChange }: ShownPartsProps) {
  const { name, noun, parts } = partsOf(item);
  if (!parts.length || !subjects.length || item.kind === "carried") return null;
  const set = (code: string, shown_when: Condition | null) =>
    onChange(
      (one) => ({
        ...one,
        [name]: partsOf(one).parts.map((part) =>
          part.code === code ? { ...part, shown_when } : part,
        ),
      }),
      `${name} when`,
    );
  const label = (code: string) => say(doc, parts.find((part) => part.code === code)?.label) || code;
  const free = parts.filter((part) => !part.shown_when);
  return (
    <Section title={`Shown when, by ${noun}`}>
      <List>
        {parts
          .filter((part) => part.shown_when)
          .map((part) => (
            <li key={part.code}>
              <b>{label(part.code)}</b>
              <ConditionEditor
                condition={part.shown_when}
                subjects={subjects}
                none=""
                onChange={(condition) => set(part.code, condition)}
              />
            </li>
          ))}
      </List>
      {free.length ? (
        <Picker
          label={`Show a ${noun} only when`}
          placeholder={`choose the ${noun}`}
          options={free.map((part) => ({ code: part.code, label: label(part.code) }))}
          value={null}
          onChange={(code) => set(code, BLANK)}
        />
      ) : null}
    </Section>
  );
}
