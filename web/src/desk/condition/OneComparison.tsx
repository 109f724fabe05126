/** One comparison as a sentence. */
import { useContext, type ReactNode } from "react";

import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import type { Condition } from "../document";
import type { Subject } from "../subjects";
import { compare, type Comparison } from "./edit";
import { Entries, Several, Value } from "./Operands";
import { Sentence } from "./Sentence";
import { Tools } from "./tools";
import { operatorsFor, operatorWords, type Operator } from "./words";

/** An editor of what is asked of each entry of a roster. */
export type Within = (
  condition: Condition | null | undefined,
  subjects: readonly Subject[],
  onChange: (condition: Condition | null) => void,
) => ReactNode;

interface ComparisonProps {
  comparison: Comparison;
  subjects: readonly Subject[];
  where: Within;
  onChange: (comparison: Comparison) => void;
  onRemove: () => void;
}

type Asked = Exclude<Comparison, { op: "saved" }>;

/** The operands, by what the comparison takes. */
function Operands({
  comparison,
  subject,
  onChange,
}: {
  comparison: Asked;
  subject: Subject | undefined;
  onChange: (comparison: Comparison) => void;
}) {
  switch (comparison.op) {
    case "between":
      return (
        <>
          <Value
            name="Lowest answer"
            subject={subject}
            value={comparison.low}
            onChange={(low) => onChange({ ...comparison, low: String(low) })}
          />
          <span>and</span>
          <Value
            name="Highest answer"
            subject={subject}
            value={comparison.high}
            onChange={(high) => onChange({ ...comparison, high: String(high) })}
          />
        </>
      );
    case "one_of":
    case "includes_all":
      return (
        <Several
          subject={subject}
          values={comparison.values}
          onChange={(values) => onChange({ ...comparison, values })}
        />
      );
    case "entry_count":
      return <Entries count={comparison} onChange={onChange} />;
    case "answered":
    case "unanswered":
    case "any_entry":
    case "every_entry":
      return null;
    default:
      return (
        <Value
          subject={subject}
          value={comparison.value}
          onChange={(value) => onChange({ ...comparison, value })}
        />
      );
  }
}

export function OneComparison(props: ComparisonProps) {
  const { comparison, subjects, where, onChange, onRemove } = props;
  const tools = useContext(Tools);
  const remove = (
    <Button weight="word" onPress={onRemove} aria-label="Remove this comparison">
      Remove
    </Button>
  );
  if (comparison.op === "saved") {
    const named = tools?.saved.find(({ key }) => key === comparison.name);
    return (
      <Sentence>
        <b>{named?.name ?? `${comparison.name} (gone)`}</b>
        {remove}
      </Sentence>
    );
  }
  const subject = subjects.find(({ key }) => key === comparison.item);
  const inner = [...subjects, ...(subject?.inner ?? [])];
  return (
    <>
      <Sentence>
        <Picker
          inline
          label="Question"
          options={subjects.map(({ key, label, detail }) => ({ code: key, label, detail }))}
          value={comparison.item || null}
          placeholder={comparison.item ? `${comparison.item} (gone)` : "choose a question"}
          onChange={(key) => {
            const next = subjects.find((one) => one.key === key);
            if (next) onChange(compare(next));
          }}
        />
        {comparison.item ? (
          <>
            <Picker
              inline
              label="Comparison"
              options={operatorsFor(subject).map((op) => ({
                code: op,
                label: operatorWords(op, subject),
              }))}
              value={comparison.op}
              onChange={(op) => {
                if (subject) onChange(compare(subject, op as Operator, comparison));
              }}
            />
            <Operands comparison={comparison} subject={subject} onChange={onChange} />
          </>
        ) : null}
        {remove}
      </Sentence>
      {comparison.op === "any_entry" || comparison.op === "every_entry"
        ? where(comparison.where, inner, (next) => {
            if (next) onChange({ ...comparison, where: next });
          })
        : null}
      {comparison.op === "entry_count" ? (
        <>
          {comparison.where ? <span>where</span> : null}
          {where(comparison.where, inner, (next) => onChange({ ...comparison, where: next }))}
        </>
      ) : null}
    </>
  );
}
