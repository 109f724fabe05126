/** The options of an item, with their codes. Enter goes on, pasted lines become options. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { first, hasOptions, optionsOf, say, type Item, type Option } from "../document";
import { addOptions, changeItem, type Spot } from "./edits";
import { keyFrom } from "./keys";
import type { Draft } from "./useDraft";

const List = styled.ol`
  margin-top: 6px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 120px auto auto;
    gap: 8px;
    align-items: center;
    border-bottom: 1px dotted var(--line-2);
  }
  input {
    width: 100%;
    border: 0;
    background: none;
    padding: 4px 0;
    min-height: 28px;
  }
  li input + input {
    font: 12.5px var(--mono);
    color: var(--ink-2);
  }
`;

/** Whether a pick excludes the others. */
const Alone = styled.button.attrs({ type: "button" })`
  border: 1px solid var(--line-2);
  border-radius: 3px;
  background: none;
  color: var(--ink-2);
  font-size: 12.5px;
  min-height: 24px;
  padding: 0 7px;
  cursor: pointer;
  &[aria-pressed="true"] {
    background: var(--loden);
    border-color: var(--loden);
    color: var(--on-loden);
  }
`;

const More = styled.input`
  width: 100%;
  border: 0;
  border-bottom: 1px dotted transparent;
  background: none;
  padding: 4px 0;
  min-height: 30px;
  &::placeholder {
    color: var(--ink-3);
    opacity: 1;
  }
`;

interface OptionsProps {
  item: Item;
  spot: Spot;
  draft: Draft;
}

export function Options({ item, spot, draft }: OptionsProps) {
  const { doc } = draft;
  const [typed, setTyped] = useState("");
  const options = optionsOf(item);
  const set = (next: readonly Option[], step = "") =>
    draft.edit(
      (now) =>
        changeItem(now, spot, (one) => (hasOptions(one) ? { ...one, options: [...next] } : one)),
      step,
    );
  const change = (at: number, part: Partial<Option>) =>
    set(
      options.map((one, position) => (position === at ? { ...one, ...part } : one)),
      `option ${item.key} ${at}`,
    );
  const fieldOf = (at: number) => `option-${item.key}-${at}`;
  const add = (lines: readonly string[]) => {
    set(addOptions(doc, options, lines));
    setTyped("");
  };
  const label = (at: number, words: string) => {
    const old = options[at];
    if (!old) return;
    const others = new Set(options.filter((_, other) => other !== at).map(({ code }) => code));
    const own = keyFrom(say(doc, old.label), others, "option") === old.code;
    const code = own && words.trim() ? keyFrom(words, others, "option") : old.code;
    change(at, { label: { ...old.label, [first(doc)]: words }, code });
  };
  return (
    <>
      <List aria-label="Options">
        {options.map((option, at) => (
          <li key={at}>
            <input
              id={fieldOf(at)}
              aria-label={`Option ${at + 1}`}
              value={say(doc, option.label)}
              onChange={(event) => label(at, event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== "Enter") return;
                event.preventDefault();
                document.getElementById(fieldOf(at + 1 < options.length ? at + 1 : -1))?.focus();
              }}
            />
            <input
              aria-label={`Code of option ${at + 1}`}
              value={option.code}
              onChange={(event) => change(at, { code: event.target.value })}
            />
            {item.kind === "pick_many" ? (
              <Alone
                aria-label={`Option ${at + 1} excludes the others`}
                aria-pressed={option.alone ?? false}
                onClick={() => change(at, { alone: !option.alone })}
              >
                alone
              </Alone>
            ) : (
              <span />
            )}
            <Button
              weight="word"
              aria-label={`Remove option ${at + 1}`}
              onPress={() => set(options.filter((_, other) => other !== at))}
            >
              Remove
            </Button>
          </li>
        ))}
      </List>
      <More
        id={fieldOf(-1)}
        aria-label="New option"
        placeholder="Add an option, or paste a column from a spreadsheet"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => (typed.trim() ? add([typed]) : undefined)}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || !typed.trim()) return;
          event.preventDefault();
          add([typed]);
        }}
        onPaste={(event) => {
          const lines = event.clipboardData.getData("text").split(/\r?\n/);
          if (lines.length < 2) return;
          event.preventDefault();
          add(lines);
        }}
      />
    </>
  );
}
