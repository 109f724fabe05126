/** Limits that are typed: numbers, days and times, lists of countries. */
import { useState } from "react";

import { Field } from "../../ui/Field";

interface BoundProps<T> {
  label: string;
  value: string | number | null | undefined;
  /** What the words mean: null for no limit, undefined where they will not do. */
  read: (text: string) => T | null | undefined;
  wrong: string;
  help?: string;
  onChange: (value: T | null) => void;
}

const told = (value: unknown): string => (value === undefined ? "?" : JSON.stringify(value));

/** A limit that is typed: what does not make sense yet stays in the field and is not taken over.
 * What was typed gives way once the limit is another: undone, or set by somebody else. */
export function Bound<T>({ label, value, read, wrong, help, onChange }: BoundProps<T>) {
  const [held, setHeld] = useState({ text: "", over: "" });
  const own = value == null ? "" : String(value);
  const means = read(held.text);
  const holds = means === undefined ? held.over === own : told(means) === told(read(own));
  const typed = holds ? held.text : own;
  const found = read(typed);
  return (
    <Field
      label={label}
      value={typed}
      help={help}
      error={found === undefined ? wrong : undefined}
      onChange={(text) => {
        setHeld({ text, over: own });
        const next = read(text);
        if (next !== undefined) onChange(next);
      }}
    />
  );
}

function decimal(text: string): string | null | undefined {
  const bare = text.trim().replace(",", ".");
  if (!bare) return null;
  return /^[+-]?\d{1,14}(\.\d{1,6})?$/.test(bare) ? bare : undefined;
}

function whole(text: string): number | null | undefined {
  if (!text.trim()) return null;
  return /^\d{1,5}$/.test(text.trim()) ? Number(text) : undefined;
}

const bare = (text: string) => text.trim().toLowerCase().replace(/\s/g, "");

function dayBound(text: string): string | null | undefined {
  const found = bare(text);
  if (!found) return null;
  return /^(\d{4}-\d{2}-\d{2}|today([+-]\d{1,4})?)$/.test(found) ? found : undefined;
}

function momentBound(text: string): string | null | undefined {
  return bare(text) === "now" ? "now" : dayBound(text);
}

function timeBound(text: string): string | null | undefined {
  if (!text.trim()) return null;
  return /^([01]\d|2[0-3]):[0-5]\d$/.test(text.trim()) ? text.trim() : undefined;
}

function countries(text: string): string[] | null | undefined {
  const codes = text
    .toUpperCase()
    .split(/[\s,;]+/)
    .filter(Boolean);
  return codes.every((code) => /^[A-Z]{2}$/.test(code)) ? codes : undefined;
}

export const WHOLE = { read: whole, wrong: "Write a whole number." };
export const DECIMAL = { read: decimal, wrong: "Write a number." };
export const DAY = { read: dayBound, wrong: "Write 2026-12-31, today, today-7 or today+30." };
export const MOMENT = { read: momentBound, wrong: "Write now, today, today+30 or 2026-12-31." };
export const CLOCK = { read: timeBound, wrong: "Write a time such as 09:00." };
export const COUNTRIES = { read: countries, wrong: "Two letters each, such as GB." };
