/** Questions that are answered by writing, each with the right keyboard and autofill. */
import type { ComponentProps } from "react";
import { Field } from "../ui/Field";
import { words, type Item, type QuestionProps } from "./answer";
import { useShared } from "./shared";

type Input = Pick<
  ComponentProps<typeof Field>,
  "type" | "inputMode" | "autoComplete" | "lines" | "min" | "max" | "dir" | "unit"
>;

const range = ({ earliest, latest }: Item) => ({
  min: earliest ?? undefined,
  max: latest ?? undefined,
});

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
      return { inputMode: item.decimals ? "decimal" : "numeric", unit: item.unit };
    case "date":
      return { type: "date", ...range(item) };
    case "time":
      return { type: "time", ...range(item) };
    case "date_time":
      return { type: "datetime-local", ...range(item) };
    default:
      return {};
  }
}

const NARROW = new Set<Item["kind"]>(["number", "date", "time", "date_time"]);

export function Typed(props: QuestionProps) {
  const { item, at, answer, onAnswer, onLeave } = props;
  const shared = useShared(props);
  return (
    <Field
      {...shared}
      narrow={NARROW.has(item.kind)}
      {...inputOf(item)}
      placeholder={item.placeholder || undefined}
      value={words(answer)}
      onChange={(text) => onAnswer(text, at)}
      onBlur={(event) => {
        const next = event.relatedTarget as HTMLButtonElement | null;
        if (next?.type !== "submit") onLeave(item, at, answer);
      }}
    />
  );
}
