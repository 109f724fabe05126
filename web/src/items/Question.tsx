/** One item of a page as a respondent answers it, by its kind. */
import type { ReactNode } from "react";
import styled from "styled-components";

import type { Schema } from "../client/client";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";

export type Item = Schema<"QuestionOut">;
export type Answer = string | boolean | null;

export interface QuestionProps {
  item: Item;
  answer: Answer;
  error?: string | undefined;
  onAnswer: (answer: Answer) => void;
}

const Words = styled.p`
  white-space: pre-line;
  color: var(--ink-2);
  overflow-wrap: anywhere;
`;

const Star = styled.span`
  color: var(--rust);
`;

const Narrow = styled.div`
  max-width: 260px;
`;

const YES_NO = [
  { code: "yes", label: "Yes" },
  { code: "no", label: "No" },
] as const;

function label(item: Item): ReactNode {
  if (!item.required) return item.text;
  return (
    <>
      {item.text} <Star aria-hidden="true">*</Star>
    </>
  );
}

export function Question({ item, answer, error, onAnswer }: QuestionProps) {
  const words = typeof answer === "string" ? answer : "";
  const shared = {
    id: `item-${item.key}`,
    label: label(item),
    help: item.help || undefined,
    error,
    isRequired: item.required ?? false,
  };
  const written = {
    ...shared,
    placeholder: item.placeholder || undefined,
    value: words,
    onChange: onAnswer,
  };
  switch (item.kind) {
    case "note":
      return <Words>{item.text}</Words>;
    case "short_text":
      return <Field {...written} />;
    case "long_text":
      return <Field {...written} lines={5} />;
    case "number":
      return (
        <Narrow>
          <Field {...written} inputMode={item.decimals ? "decimal" : "numeric"} />
        </Narrow>
      );
    case "pick_one":
      return (
        <Choice
          {...shared}
          options={item.options ?? []}
          value={words || null}
          onChange={onAnswer}
        />
      );
    case "yes_no":
      return (
        <Choice
          {...shared}
          options={YES_NO}
          value={answer === true ? "yes" : answer === false ? "no" : null}
          onChange={(code) => onAnswer(code === "yes")}
        />
      );
  }
}
