/** The limits that an item's kind has, each in its own field. */
import { useState } from "react";

import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { first, say, type Doc, type Item } from "../document";
import { PatternFields } from "./PatternFields";
import { Pair } from "./Section";

export type Change = (change: (item: Item) => Item, step?: string) => void;

interface BoundProps<T> {
  label: string;
  value: string | number | null | undefined;
  /** What the words mean: null for no limit, undefined where they will not do. */
  read: (text: string) => T | null | undefined;
  wrong: string;
  help?: string;
  onChange: (value: T | null) => void;
}

/** A limit that is typed: what does not make sense yet stays in the field and is not taken over. */
export function Bound<T>({ label, value, read, wrong, help, onChange }: BoundProps<T>) {
  const [typed, setTyped] = useState(value == null ? "" : String(value));
  const found = read(typed);
  return (
    <Field
      label={label}
      value={typed}
      help={help}
      error={found === undefined ? wrong : undefined}
      onChange={(text) => {
        setTyped(text);
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

function dayBound(text: string): string | null | undefined {
  const bare = text.trim().toLowerCase().replace(/\s/g, "");
  if (!bare) return null;
  return /^(\d{4}-\d{2}-\d{2}|today([+-]\d{1,4})?)$/.test(bare) ? bare : undefined;
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

const WHOLE = { read: whole, wrong: "Write a whole number." };
const DECIMAL = { read: decimal, wrong: "Write a number." };
const DAY = { read: dayBound, wrong: "Write 2026-12-31, today, today-7 or today+30." };
const CLOCK = { read: timeBound, wrong: "Write a time such as 09:00." };

interface LimitsProps {
  item: Item;
  doc: Doc;
  onChange: Change;
}

export function Limits({ item, doc, onChange }: LimitsProps) {
  const set = (part: object) => onChange((one) => ({ ...one, ...part }), "limits");
  const words = (name: string) => (text: string) => set({ [name]: { [first(doc)]: text } });
  switch (item.kind) {
    case "short_text":
    case "long_text":
      return (
        <>
          <Pair>
            <Bound
              label="Shortest"
              value={item.shortest}
              {...WHOLE}
              onChange={(shortest) => set({ shortest })}
            />
            <Bound
              label="Longest"
              value={item.longest}
              {...WHOLE}
              onChange={(longest) => set({ longest: longest === 0 ? 1 : longest })}
            />
          </Pair>
          {item.kind === "short_text" ? (
            <PatternFields item={item} doc={doc} onChange={(pattern) => set({ pattern })} />
          ) : null}
        </>
      );
    case "number":
      return (
        <>
          <Pair>
            <Bound
              label="At least"
              value={item.at_least}
              {...DECIMAL}
              onChange={(at_least) => set({ at_least })}
            />
            <Bound
              label="At most"
              value={item.at_most}
              {...DECIMAL}
              onChange={(at_most) => set({ at_most })}
            />
          </Pair>
          <Picker
            label="Digits after the point"
            options={[0, 1, 2, 3, 4, 5, 6].map((digits) => ({
              code: String(digits),
              label: digits ? String(digits) : "None, whole numbers",
            }))}
            value={String(item.decimals ?? 0)}
            onChange={(code) => set({ decimals: Number(code) })}
          />
        </>
      );
    case "date":
    case "time": {
      const kind = item.kind === "date" ? DAY : CLOCK;
      return (
        <Pair>
          <Bound
            label="Not before"
            value={item.earliest}
            {...kind}
            onChange={(earliest) => set({ earliest })}
          />
          <Bound
            label="Not after"
            value={item.latest}
            {...kind}
            onChange={(latest) => set({ latest })}
          />
        </Pair>
      );
    }
    case "pick_many":
      return (
        <Pair>
          <Bound
            label="Fewest picks"
            value={item.fewest}
            {...WHOLE}
            onChange={(fewest) => set({ fewest: fewest || null })}
          />
          <Bound
            label="Most picks"
            value={item.most}
            {...WHOLE}
            onChange={(most) => set({ most: most || null })}
          />
        </Pair>
      );
    case "scale":
      return (
        <>
          <Pair>
            <Picker
              label="From"
              options={[0, 1].map((low) => ({ code: String(low), label: String(low) }))}
              value={String(item.low ?? 1)}
              onChange={(low) => set({ low: Number(low) })}
            />
            <Picker
              label="To"
              options={[2, 3, 4, 5, 6, 7, 8, 9, 10].map((high) => ({
                code: String(high),
                label: String(high),
              }))}
              value={String(item.high ?? 5)}
              onChange={(high) => set({ high: Number(high) })}
            />
          </Pair>
          <Field
            label="The low end in words"
            value={say(doc, item.low_label)}
            onChange={words("low_label")}
          />
          <Field
            label="The high end in words"
            value={say(doc, item.high_label)}
            onChange={words("high_label")}
          />
        </>
      );
    case "phone":
      return (
        <Bound
          label="Countries"
          help="Codes such as GB, IE. The first counts for numbers without +. None takes all."
          value={(item.countries ?? []).join(", ")}
          read={countries}
          wrong="Two letters each, such as GB."
          onChange={(found) => set({ countries: found ?? [] })}
        />
      );
    default:
      return null;
  }
}
