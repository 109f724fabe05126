/** Picking from many options: a search field, the first that match, and what is picked on top. */
import { useDeferredValue, useId, useMemo, useState, type ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../ui/Button";
import { choiceRow } from "../ui/Choice";
import { fieldBox } from "../ui/Field";
import { Group } from "../ui/Group";
import { useSay } from "./words";

/** Matches that are shown at once. */
const SHOWN = 40;

const Search = styled.input`
  ${fieldBox}
  min-height: 46px;
  margin-top: 8px;
`;

const Row = styled.label`
  ${choiceRow}
  &::before {
    display: none;
  }
  input {
    width: 22px;
    height: 22px;
    margin: 0;
    flex: none;
    accent-color: var(--accent);
  }
  &:has(:checked) {
    border-color: var(--accent);
    background: var(--accent-soft);
  }
  &:has(:focus-visible) {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
  }
  input:focus-visible {
    outline: none;
  }
`;

const Mine = styled.ul`
  li {
    display: flex;
    gap: 12px;
    align-items: center;
    justify-content: space-between;
    border-inline-start: 4px solid var(--accent);
    background: var(--accent-soft);
    padding: 4px 12px;
    margin-top: 8px;
    overflow-wrap: anywhere;
  }
`;

const Said = styled.p`
  color: var(--ink-2);
  margin-top: 8px;
  min-height: 1.5em;
`;

interface Pickable {
  code: string;
  label: string;
  full?: boolean;
}

export interface LongPickProps {
  id: string;
  label: ReactNode;
  help?: string | undefined;
  error?: string | undefined;
  isRequired: boolean;
  options: readonly Pickable[];
  picked: readonly string[];
  many: boolean;
  /** Nothing is listed before something is searched for. */
  folded?: boolean;
  onPick: (codes: readonly string[]) => void;
  more?: ReactNode;
}

/** Letters without case and accents, as people search. */
function plain(text: string): string {
  return text.normalize("NFD").replace(/\p{M}/gu, "").toLocaleLowerCase();
}

function useMatches(options: readonly Pickable[], sought: string): readonly Pickable[] {
  const folded = useMemo(() => options.map((option) => plain(option.label)), [options]);
  const parts = plain(sought).split(/\s+/).filter(Boolean);
  return options.filter((_, at) => parts.every((part) => folded[at]?.includes(part)));
}

export function LongPick({ options, picked, many, onPick, more, ...props }: LongPickProps) {
  const say = useSay();
  const group = useId();
  const [sought, setSought] = useState("");
  const matches = useMatches(options, useDeferredValue(sought));
  const mine = options.filter(({ code }) => picked.includes(code));
  const listed = props.folded && !sought.trim() ? [] : matches;
  const toggle = (code: string, on: boolean) => {
    if (!many) onPick([code]);
    else onPick(on ? [...picked, code] : picked.filter((one) => one !== code));
  };
  const row = ({ code, label, full }: Pickable) => (
    <Row key={code}>
      <input
        type={many ? "checkbox" : "radio"}
        name={group}
        checked={picked.includes(code)}
        disabled={Boolean(full) && !picked.includes(code)}
        onChange={(event) => toggle(code, event.target.checked)}
      />
      {label}
    </Row>
  );
  return (
    <Group id={`${props.id}-whole`} label={props.label} help={props.help} error={props.error}>
      {mine.length ? (
        <Mine>
          {mine.map(({ code, label }) => (
            <li key={code}>
              {label}
              <Button
                weight="word"
                aria-label={`${say("remove")}: ${label}`}
                onPress={() => (many ? toggle(code, false) : onPick([]))}
              >
                {say("remove")}
              </Button>
            </li>
          ))}
        </Mine>
      ) : null}
      <Search
        id={props.id}
        type="search"
        aria-label={say("search", { count: options.length })}
        aria-required={props.isRequired || undefined}
        placeholder={say("search", { count: options.length })}
        value={sought}
        onChange={(event) => setSought(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.preventDefault();
        }}
      />
      <Said role="status">
        {matches.length === 0
          ? say("nothing_found")
          : listed.length > SHOWN
            ? say("shown_of", { shown: SHOWN, count: listed.length })
            : ""}
      </Said>
      {listed.slice(0, SHOWN).map(row)}
      {more}
    </Group>
  );
}
