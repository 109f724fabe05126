/** One value of a contact in the grid: changed where it stands, saved when it is left. */
import { useState, type KeyboardEvent } from "react";
import styled from "styled-components";

import type { ContactField } from "./data";

const WIDTHS: Record<string, number> = { name: 140, email: 220, key: 84, language: 64 };

const Box = styled.div<{ $width: number }>`
  min-width: ${({ $width }) => $width}px;
  input,
  select {
    width: 100%;
    min-height: 30px;
    border: 1px solid transparent;
    border-radius: 3px;
    background: none;
    color: inherit;
    font: inherit;
    padding: 3px 6px;
    text-overflow: ellipsis;
  }
  input:hover,
  select:hover {
    border-color: var(--line-2);
  }
  input:focus-visible,
  select:focus-visible {
    background: var(--paper);
    outline: 2.5px solid var(--flax);
  }
  [aria-invalid="true"] {
    border-color: var(--rust);
  }
  small {
    display: block;
    color: var(--rust);
    font-weight: 600;
    white-space: normal;
    max-width: 240px;
  }
`;

/** Move to the same column of the row above or below, as in any ledger. */
function alongColumn(event: KeyboardEvent<HTMLElement>): void {
  const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
  const cell = event.currentTarget.closest("td");
  const row = cell?.parentElement;
  const next = by > 0 ? row?.nextElementSibling : by < 0 ? row?.previousElementSibling : null;
  const target = next?.children[cell?.cellIndex ?? -1]?.querySelector<HTMLElement>("input, select");
  if (!target) return;
  event.preventDefault();
  target.focus();
}

interface CellProps {
  field: ContactField;
  /** What screen readers hear: the field and whose it is. */
  name: string;
  value: string;
  error: string | undefined;
  /** Whether it could be saved. */
  onSave: (value: string) => Promise<boolean>;
}

const YES_NO = ["yes", "no"];

export function Cell({ field, name, value, error, onSave }: CellProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? value;
  const save = (given: string) => {
    if (given.trim() === value) {
      setTyped(null);
      return;
    }
    // What is typed on meanwhile stays.
    const settle = (isSaved: boolean) =>
      isSaved ? setTyped((now) => (now === given ? null : now)) : undefined;
    void onSave(given.trim()).then(settle);
  };
  const described = { "aria-label": name, "aria-invalid": error ? true : undefined };
  const choices =
    field.kind === "yes_no" ? YES_NO : field.kind === "pick" ? (field.options ?? []) : null;
  return (
    <Box $width={WIDTHS[field.key] ?? 120}>
      {choices ? (
        <select
          {...described}
          value={shown}
          onChange={(event) => {
            setTyped(event.target.value);
            save(event.target.value);
          }}
        >
          <option value="" />
          {choices.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      ) : (
        <input
          {...described}
          value={shown}
          maxLength={500}
          placeholder={field.kind === "date" ? "2026-03-01" : undefined}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={(event) => save(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") save(event.currentTarget.value);
            else if (event.key === "Escape") setTyped(null);
            else alongColumn(event);
          }}
        />
      )}
      {error ? <small role="alert">{error}</small> : null}
    </Box>
  );
}
