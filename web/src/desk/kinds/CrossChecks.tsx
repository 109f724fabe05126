/** Checks across answers, as sentences with their own message. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Operand, Sentence } from "../condition/Sentence";
import { say, told, type Doc } from "../document";
import type { Subject } from "../subjects";
import {
  about,
  checkable,
  partnersOf,
  relationsOf,
  takesNumber,
  type CrossCheck,
  type Relation,
} from "./comparable";
import { RELATIONS } from "./relations";
import { Section } from "../shell/Section";

const Rules = styled.ol`
  display: grid;
  gap: 14px;
  > li {
    display: grid;
    gap: 6px;
    justify-items: stretch;
    border-inline-start: 2px solid var(--line-2);
    padding-inline-start: 10px;
    > button {
      justify-self: start;
    }
  }
`;

interface CrossChecksProps {
  doc: Doc;
  checks: readonly CrossCheck[];
  subjects: readonly Subject[];
  onChange: (checks: CrossCheck[], step?: string) => void;
}

const asOptions = (subjects: readonly Subject[]) =>
  subjects.map(({ key, label, detail }) => ({ code: key, label, detail }));

const A_NUMBER = "(number)";

export function CrossChecks({ doc, checks, subjects, onChange }: CrossChecksProps) {
  const usable = checkable(subjects);
  const change = (at: number, part: Partial<CrossCheck>) =>
    onChange(
      checks.map((one, other) => (other === at ? { ...one, ...part } : one)),
      `check ${at}`,
    );
  const byKey = (key: string) => usable.find((one) => one.key === key);
  const relations = (key: string) =>
    relationsOf(byKey(key)).map((code) => ({ code, label: RELATIONS[code] }));
  /** What can be held against the answer `key`. */
  const others = (key: string) => {
    const subject = byKey(key);
    return [
      ...(takesNumber(subject) ? [{ code: A_NUMBER, label: "the number" }] : []),
      ...asOptions(subject ? partnersOf(subject, usable) : usable),
    ];
  };
  const left = usable.findLast((one) => relationsOf(one).includes("at_least")) ?? usable.at(-1);
  return (
    <Section title="Checks across answers">
      <Rules>
        {checks.map((check, at) => (
          <li key={at}>
            <Sentence>
              <Picker
                inline
                label="What is checked"
                options={asOptions(usable)}
                value={check.left}
                onChange={(key) => {
                  const subject = usable.find((one) => one.key === key);
                  if (subject) change(at, about(check, subject, usable));
                }}
              />
              <Picker
                inline
                label="How they compare"
                options={relations(check.left)}
                value={check.relation}
                onChange={(code) => change(at, { relation: code as Relation })}
              />
              <Picker
                inline
                label="What it is held against"
                options={others(check.left)}
                value={check.right ?? A_NUMBER}
                onChange={(key) =>
                  change(
                    at,
                    key === A_NUMBER ? { right: null, number: "1" } : { right: key, number: null },
                  )
                }
              />
              {check.right == null ? (
                <Operand
                  style={{ width: 90 }}
                  aria-label="The number"
                  defaultValue={check.number ?? ""}
                  onChange={(event) => {
                    const typed = event.target.value.trim().replace(",", ".");
                    if (/^-?\d{1,14}(\.\d{1,6})?$/.test(typed)) change(at, { number: typed });
                  }}
                />
              ) : null}
            </Sentence>
            <Field
              label="When that is not so, it says"
              value={say(doc, check.message)}
              onChange={(words) => change(at, { message: told(doc, check.message, words) })}
            />
            <Button
              weight="word"
              onPress={() => onChange(checks.filter((_, other) => other !== at))}
            >
              Delete this check
            </Button>
          </li>
        ))}
      </Rules>
      {left ? (
        <Button
          weight="word"
          onPress={() =>
            onChange([
              ...checks,
              about({ left: "", relation: "at_least", message: {} }, left, usable),
            ])
          }
        >
          Add a check
        </Button>
      ) : (
        <p>Ask a number first, or two questions of the same kind.</p>
      )}
    </Section>
  );
}
