/** What every question has around its fields: name, help, error. */
import { createContext, useContext, type ReactNode } from "react";
import styled from "styled-components";

import { errorAt, fieldOf, type Item, type QuestionProps } from "./answer";
import { useSay, type Say } from "./words";

const Star = styled.span`
  color: var(--rust);
`;

export function Label({ item }: { item: Item }): ReactNode {
  if (!item.required) return item.text;
  return (
    <>
      {item.text} <Star aria-hidden="true">*</Star>
    </>
  );
}

/** What is said below the question: its help, and the shape or number that is asked for. */
export function helpOf(item: Item, say: Say): string | undefined {
  const { fewest, most } = item;
  const counted =
    item.kind !== "pick_many"
      ? ""
      : fewest && most
        ? say("pick_range", { low: fewest, high: most })
        : most
          ? say("pick_most", { high: most })
          : fewest
            ? say("pick_least", { low: fewest })
            : "";
  const like = item.like ? say("write_like", { like: item.like }) : "";
  return [item.help, counted || like].filter(Boolean).join(" ") || undefined;
}

export function useShared({ item, at, faults }: Pick<QuestionProps, "item" | "at" | "faults">) {
  const say = useSay();
  return {
    id: fieldOf(at),
    label: <Label item={item} />,
    help: helpOf(item, say),
    error: errorAt(faults, at),
    isRequired: item.required ?? false,
  };
}

/** A name for this visit, by which options are shuffled: the same each time they are shown. */
export const Seed = createContext("");

function hash(text: string): number {
  let found = 2166136261;
  for (const letter of text) found = Math.imul(found ^ (letter.codePointAt(0) ?? 0), 16777619);
  return found >>> 0;
}

interface Pickable {
  code: string;
  label: string;
  alone?: boolean;
  /** Whether no place of it is left. */
  full?: boolean;
}

/** The options in the order in which this visitor reads them; those that exclude others last. */
export function useOrder(item: Item): readonly Pickable[] {
  const seed = useContext(Seed);
  const say = useSay();
  const options = (item.options ?? []).map((option) =>
    option.full ? { ...option, label: say("option_full", { label: option.label }) } : option,
  );
  if (!item.shuffled) return options;
  const drawn = (option: Pickable) => hash(`${seed} ${item.key} ${option.code}`);
  const free = options.filter((option) => !option.alone);
  return [
    ...free.sort((one, other) => drawn(one) - drawn(other)),
    ...options.filter((option) => option.alone),
  ];
}
