/** Checks across answers, as sentences with their own message. */
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { COUNTED, MEASURED } from "../../client/kinds";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Operand, Sentence } from "../condition/Sentence";
import { holdsOf } from "../condition/words";
import { say, told, type Doc } from "../document";
import { isFact, type Subject } from "../subjects";
import { RELATIONS } from "./relations";
import { Section } from "../shell/Section";

export type CrossCheck = Schema<"CrossCheck">;

const relations = Object.entries(RELATIONS).map(([code, label]) => ({ code, label }));

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

const COUNTED_HERE: ReadonlySet<string> = new Set(COUNTED);

/** Whether an answer to `subject` can be held against another one. */
const isComparable = (subject: Subject): boolean =>
  !isFact(subject) && MEASURED[holdsOf(subject)] !== "nothing";

interface CrossChecksProps {
  doc: Doc;
  checks: readonly CrossCheck[];
  subjects: readonly Subject[];
  onChange: (checks: CrossCheck[], step?: string) => void;
}

/** What is compared, as a person reads it. */
function named(subject: Subject): Subject {
  return COUNTED_HERE.has(holdsOf(subject))
    ? { ...subject, label: `how many of ${subject.label}` }
    : subject;
}

const asOptions = (subjects: readonly Subject[]) =>
  subjects.map(({ key, label, detail }) => ({ code: key, label, detail }));

const A_NUMBER = "(number)";

export function CrossChecks({ doc, checks, subjects, onChange }: CrossChecksProps) {
  const usable = subjects.filter(isComparable).map(named);
  const change = (at: number, part: Partial<CrossCheck>) =>
    onChange(
      checks.map((one, other) => (other === at ? { ...one, ...part } : one)),
      `check ${at}`,
    );
  const [left, right] = [usable.at(-1), usable.at(-2)];
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
                onChange={(key) => change(at, { left: key })}
              />
              <Picker
                inline
                label="How they compare"
                options={relations}
                value={check.relation}
                onChange={(code) => change(at, { relation: code as CrossCheck["relation"] })}
              />
              <Picker
                inline
                label="What it is held against"
                options={[{ code: A_NUMBER, label: "the number" }, ...asOptions(usable)]}
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
              {
                left: left.key,
                relation: "at_least",
                ...(right ? { right: right.key } : { number: "1" }),
                message: {},
              },
            ])
          }
        >
          Add a check
        </Button>
      ) : (
        <p>Ask something first.</p>
      )}
    </Section>
  );
}
