/** The likely kind of a question that is being written, taken with one key. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { Button } from "../../ui/Button";
import { Keys, Quiet } from "../../ui/text";
import { first, KIND_NAMES, say, type Doc, type Item } from "../document";
import { outline } from "../data";
import { useRested } from "../useRested";

/** Milliseconds for which the words have to rest. */
const PAUSE = 400;
const SHORTEST = 8;

const UNTOUCHED = new Set(["kind", "key", "text", "short_name", "shown_when", "width"]);

const said = (value: unknown): string => (value === "" ? "" : JSON.stringify(value ?? null));

/** Whether nothing about the answer has been decided yet. */
export function isUntouched(item: Item): boolean {
  const decided = Object.entries(item as Record<string, unknown>).filter(
    ([name, value]) =>
      !UNTOUCHED.has(name) && !["", "null", "false", "{}", "[]"].includes(said(value)),
  );
  return item.kind === "short_text" && !decided.length;
}

/** `item` as it was guessed, with the key and the translations that it has. */
export function asGuessed(item: Item, guessed: Item): Item {
  const { key, short_name = "", shown_when = null } = item;
  return { ...guessed, key, short_name, shown_when, text: { ...item.text, ...guessed.text } };
}

interface ProposedKindProps {
  item: Item;
  doc: Doc;
  onTake: (item: Item) => void;
}

export function ProposedKind({ item, doc, onTake }: ProposedKindProps) {
  const words = useRested(say(doc, item.text), PAUSE);
  const language = first(doc);
  const { data } = useQuery({
    ...outline(words, language, () => []),
    enabled: words.trim().length >= SHORTEST,
    staleTime: Infinity,
  });
  const found = data?.pages.length === 1 ? data.pages[0]?.items : undefined;
  const guessed = found?.length === 1 && words === say(doc, item.text) ? found[0]?.item : undefined;
  const other = guessed && guessed.kind !== item.kind ? asGuessed(item, guessed) : null;
  useEffect(() => {
    if (!other) return;
    const press = (event: KeyboardEvent) => {
      if (event.code !== "KeyK" || !event.altKey || event.ctrlKey) return;
      event.preventDefault();
      onTake(other);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [other, onTake]);
  if (!other) return null;
  return (
    <Quiet role="status">
      Likely{" "}
      <Button weight="word" onPress={() => onTake(other)}>
        {KIND_NAMES[other.kind]} <Keys>Alt K</Keys>
      </Button>
    </Quiet>
  );
}
