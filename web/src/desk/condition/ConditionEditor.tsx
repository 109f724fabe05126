/** A condition as a sentence whose words are changed in place. */
import styled from "styled-components";

import type { Condition, Subject } from "../document";
import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { asCondition, asRow, compare, firstOperand, type Comparison, type Row } from "./edit";
import { Operand, Sentence } from "./Sentence";
import { OPERATORS, operatorsFor, sentence, type Operator } from "./words";

interface ComparisonProps {
  comparison: Comparison;
  subjects: readonly Subject[];
  onChange: (comparison: Comparison) => void;
  onRemove: () => void;
}

const YES_NO = [
  { code: "yes", label: "Yes" },
  { code: "no", label: "No" },
];

interface ValueProps {
  subject: Subject | undefined;
  value: string | boolean;
  onChange: (value: string | boolean) => void;
}

function Value({ subject, value, onChange }: ValueProps) {
  if (subject?.kind === "yes_no") {
    return (
      <Picker
        inline
        label="Answer"
        options={YES_NO}
        value={value ? "yes" : "no"}
        onChange={(code) => onChange(code === "yes")}
      />
    );
  }
  if (subject?.options.length) {
    return (
      <Picker
        inline
        label="Answer"
        options={subject.options}
        value={String(value)}
        onChange={onChange}
      />
    );
  }
  return (
    <Operand
      aria-label="Answer"
      value={String(value)}
      type={subject?.kind === "date" || subject?.kind === "time" ? subject.kind : "text"}
      inputMode={subject?.kind === "number" || subject?.kind === "scale" ? "decimal" : "text"}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

function OneComparison({ comparison, subjects, onChange, onRemove }: ComparisonProps) {
  const subject = subjects.find(({ key }) => key === comparison.item);
  const known = subjects.map(({ key, label, detail }) => ({
    code: key,
    label,
    detail,
  }));
  const operators = operatorsFor(subject).map((op) => ({
    code: op,
    label: OPERATORS[op],
  }));
  return (
    <Sentence>
      <Picker
        inline
        label="Question"
        options={known}
        value={comparison.item}
        placeholder={`${comparison.item} (gone)`}
        onChange={(key) => {
          const next = subjects.find((one) => one.key === key);
          if (next) onChange(compare(next));
        }}
      />
      <Picker
        inline
        label="Comparison"
        options={operators}
        value={comparison.op}
        onChange={(op) => {
          if (!subject) return;
          const value = "value" in comparison ? comparison.value : firstOperand(subject);
          onChange(compare(subject, op as Operator, value));
        }}
      />
      {"value" in comparison ? (
        <Value
          subject={subject}
          value={comparison.value}
          onChange={(value) => onChange({ ...comparison, value })}
        />
      ) : null}
      <Button weight="word" onPress={onRemove} aria-label="Remove this comparison">
        Remove
      </Button>
    </Sentence>
  );
}

interface ConditionEditorProps {
  condition: Condition | null | undefined;
  subjects: readonly Subject[];
  onChange: (condition: Condition | null) => void;
  /** What is said where there is no condition. */
  none: string;
}

const Stack = styled.div`
  display: grid;
  gap: 6px;
  justify-items: start;
`;

const JOINS = [
  { code: "all", label: "and" },
  { code: "any", label: "or" },
];

export function ConditionEditor({ condition, subjects, onChange, none }: ConditionEditorProps) {
  const row: Row | null = condition ? asRow(condition) : { joined: "all", comparisons: [] };
  if (!row || !condition) {
    const begin = subjects.at(-1);
    return (
      <Stack>
        <span>{condition ? sentence(condition, subjects) : none}</span>
        {condition ? (
          <Button weight="word" onPress={() => onChange(null)}>
            Remove the condition
          </Button>
        ) : begin ? (
          <Button weight="word" onPress={() => onChange(compare(begin))}>
            Add a condition
          </Button>
        ) : null}
      </Stack>
    );
  }
  const set = (comparisons: readonly Comparison[]) =>
    onChange(asCondition({ ...row, comparisons }));
  return (
    <Stack>
      {row.comparisons.map((comparison, position) => (
        <Stack key={position}>
          {position ? (
            <Picker
              inline
              label="Joined by"
              options={JOINS}
              value={row.joined}
              onChange={(joined) =>
                onChange(asCondition({ ...row, joined: joined as Row["joined"] }))
              }
            />
          ) : null}
          <OneComparison
            comparison={comparison}
            subjects={subjects}
            onChange={(next) =>
              set(row.comparisons.map((one, at) => (at === position ? next : one)))
            }
            onRemove={() => set(row.comparisons.filter((_, at) => at !== position))}
          />
        </Stack>
      ))}
      <Button
        weight="word"
        onPress={() => {
          const last = subjects.at(-1);
          if (last) set([...row.comparisons, compare(last)]);
        }}
      >
        Add a comparison
      </Button>
    </Stack>
  );
}
