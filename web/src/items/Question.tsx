/** One item of a page as a respondent answers it, by its kind. */
import type { ComponentProps, ReactNode } from "react";
import styled from "styled-components";

import type { Schema } from "../client/client";
import { Choice } from "../ui/Choice";
import { Choices } from "../ui/Choices";
import { Field } from "../ui/Field";
import { Scale } from "../ui/Scale";
import { pick } from "./picks";

export type Item = Schema<"QuestionOut">;
export type Answer = string | boolean | readonly string[] | null;

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

type Input = Pick<
  ComponentProps<typeof Field>,
  "type" | "inputMode" | "autoComplete" | "lines" | "min" | "max" | "dir"
>;

/** How each written kind is typed: the right keyboard, and what the browser may fill in. */
function inputOf(item: Item): Input {
  switch (item.kind) {
    case "long_text":
      return { lines: 5 };
    case "email":
      return { type: "email", inputMode: "email", autoComplete: "email", dir: "ltr" };
    case "phone":
      return { type: "tel", inputMode: "tel", autoComplete: "tel", dir: "ltr" };
    case "web_address":
      return { type: "text", inputMode: "url", autoComplete: "url", dir: "ltr" };
    case "number":
      return { inputMode: item.decimals ? "decimal" : "numeric" };
    case "date":
      return { type: "date", min: item.earliest ?? undefined, max: item.latest ?? undefined };
    case "time":
      return { type: "time", min: item.earliest ?? undefined, max: item.latest ?? undefined };
    default:
      return {};
  }
}

/** What is said below the question: its help, and the shape that is asked for. */
function helpOf(item: Item): string | undefined {
  const picks =
    item.fewest && item.most
      ? `Pick ${item.fewest} to ${item.most}.`
      : item.most
        ? `Pick up to ${item.most}.`
        : item.fewest
          ? `Pick at least ${item.fewest}.`
          : "";
  const like = item.like ? `Write it ${item.like}.` : "";
  return [item.help, picks || like].filter(Boolean).join(" ") || undefined;
}

const NARROW = new Set<Item["kind"]>(["number", "date", "time"]);

export function Question({ item, answer, error, onAnswer }: QuestionProps) {
  const words = typeof answer === "string" ? answer : "";
  const options = item.options ?? [];
  const shared = {
    id: `item-${item.key}`,
    label: label(item),
    help: helpOf(item),
    error,
    isRequired: item.required ?? false,
  };
  switch (item.kind) {
    case "note":
      return <Words>{item.text}</Words>;
    case "pick_one":
      return <Choice {...shared} options={options} value={words || null} onChange={onAnswer} />;
    case "pick_many": {
      const picked = Array.isArray(answer) ? (answer as readonly string[]) : [];
      return (
        <Choices
          {...shared}
          options={options}
          value={[...picked]}
          onChange={(next) => onAnswer(pick(options, picked, next))}
        />
      );
    }
    case "scale":
      return (
        <Scale
          {...shared}
          low={Number(item.at_least)}
          high={Number(item.at_most)}
          lowLabel={item.low_label ?? ""}
          highLabel={item.high_label ?? ""}
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
    default: {
      const field = (
        <Field
          {...shared}
          {...inputOf(item)}
          placeholder={item.placeholder || undefined}
          value={words}
          onChange={onAnswer}
        />
      );
      return NARROW.has(item.kind) ? <Narrow>{field}</Narrow> : field;
    }
  }
}
