/** What a comparison compares with, as words that are changed in place. */
import type { ReactNode } from "react";
import styled from "styled-components";

import { Picker } from "../../ui/Picker";
import type { Subject } from "../subjects";
import { holdsOf } from "./words";
import type { Comparison } from "./edit";
import { Operand } from "./Sentence";

const YES_NO = [
  { code: "yes", label: "Yes" },
  { code: "no", label: "No" },
];

interface ValueProps {
  subject: Subject | undefined;
  value: string | boolean;
  onChange: (value: string | boolean) => void;
  name?: string;
}

const DAYS = [
  { code: "day", label: "the day" },
  { code: "today", label: "today" },
  { code: "before", label: "days before today" },
  { code: "after", label: "days after today" },
];

/** How a day is told; null where none is chosen. */
function dayMode(value: string | boolean, relative: boolean, by = ""): string | null {
  if (value === "") return null;
  if (!relative) return "day";
  if (!by) return "today";
  return by.startsWith("-") ? "before" : "after";
}

/** A day of the calendar, or one that is counted from today. */
function Day({ value, onChange, name = "Answer" }: ValueProps) {
  const [, by] = /^today([+-]\d+)?$/.exec(String(value)) ?? [];
  const relative = String(value).startsWith("today");
  const mode = dayMode(value, relative, by);
  const today = () => new Date().toISOString().slice(0, 10);
  return (
    <>
      {mode === "before" || mode === "after" ? (
        <Operand
          aria-label="How many days"
          inputMode="numeric"
          value={by?.slice(1) ?? "1"}
          style={{ width: 60 }}
          onChange={(event) => {
            const days = event.target.value.replace(/\D/g, "").slice(0, 4) || "1";
            onChange(`today${mode === "before" ? "-" : "+"}${days}`);
          }}
        />
      ) : null}
      <Picker
        inline
        label="Which day"
        options={DAYS}
        value={mode}
        onChange={(code) =>
          onChange({ day: today(), today: "today", before: "today-7" }[code] ?? "today+7")
        }
      />
      {mode === "day" ? (
        <Operand
          aria-label={name}
          type="date"
          value={String(value).slice(0, 10)}
          onChange={(event) => onChange(event.target.value)}
        />
      ) : null}
    </>
  );
}

export function Value({ subject, value, onChange, name = "Answer" }: ValueProps) {
  if (subject?.kind === "yes_no") {
    return (
      <Picker
        inline
        label={name}
        options={YES_NO}
        value={value === "" ? null : value ? "yes" : "no"}
        onChange={(code) => onChange(code === "yes")}
      />
    );
  }
  if (subject?.options.length) {
    return (
      <Picker
        inline
        label={name}
        options={subject.options}
        value={value === "" ? null : String(value)}
        onChange={onChange}
      />
    );
  }
  const holds = subject && holdsOf(subject);
  if (subject && (holds === "day" || holds === "moment")) {
    return <Day subject={subject} value={value} onChange={onChange} name={name} />;
  }
  return (
    <Operand
      aria-label={name}
      placeholder="…"
      value={String(value)}
      type={holds === "time" ? "time" : "text"}
      inputMode={holds === "number" ? "decimal" : "text"}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

const Chips = styled.span`
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px;
  label {
    display: inline-flex;
    gap: 5px;
    align-items: center;
    min-height: 28px;
    padding: 1px 8px;
    border: 1px solid var(--edge);
    border-radius: 4px;
    background: var(--paper);
    cursor: pointer;
  }
  label:has(:checked) {
    background: var(--accent-soft);
    font-weight: 600;
  }
`;

interface SeveralProps {
  subject: Subject | undefined;
  values: readonly (string | boolean)[];
  onChange: (values: [string | boolean, ...(string | boolean)[]]) => void;
}

/** Several values: options that are ticked, or texts with commas between them. */
export function Several({ subject, values, onChange }: SeveralProps) {
  const set = (next: readonly (string | boolean)[]) => {
    const [first, ...others] = next;
    if (first !== undefined) onChange([first, ...others]);
  };
  if (!subject?.options.length) {
    return (
      <Operand
        aria-label="Answers, with commas between them"
        value={values.join(", ")}
        onChange={(event) => set(event.target.value.split(",").map((one) => one.trimStart()))}
      />
    );
  }
  return (
    <Chips role="group" aria-label="Answers">
      {subject.options.map(({ code, label }) => (
        <label key={code}>
          <input
            type="checkbox"
            checked={values.includes(code)}
            onChange={(event) =>
              set(
                subject.options
                  .map((option) => option.code)
                  .filter((one) => (one === code ? event.target.checked : values.includes(one))),
              )
            }
          />
          {label}
        </label>
      ))}
    </Chips>
  );
}

type Count = Extract<Comparison, { op: "entry_count" }>;

const COUNTS = [
  { code: "least", label: "at least" },
  { code: "most", label: "at most" },
  { code: "exactly", label: "exactly" },
  { code: "between", label: "between" },
];

function modeOf({ at_least, at_most }: Count): string {
  if (at_most == null) return "least";
  if (at_least == null) return "most";
  return at_least === at_most ? "exactly" : "between";
}

/** How many entries of a roster. */
export function Entries({ count, onChange }: { count: Count; onChange: (count: Count) => void }) {
  const mode = modeOf(count);
  const low = count.at_least ?? count.at_most ?? 1;
  const high = count.at_most ?? low + 1;
  const field = (name: string, value: number, set: (value: number) => Count): ReactNode => (
    <Operand
      aria-label={name}
      inputMode="numeric"
      value={String(value)}
      style={{ width: 60 }}
      onChange={(event) =>
        onChange(set(Math.min(Number(event.target.value.replace(/\D/g, "")), 200)))
      }
    />
  );
  const bounds: Record<string, [number | null, number | null]> = {
    least: [low, null],
    most: [null, low],
    exactly: [low, low],
    between: [low, Math.max(high, low + 1)],
  };
  return (
    <>
      <Picker
        inline
        label="How many"
        options={COUNTS}
        value={mode}
        onChange={(code) => {
          const [at_least = null, at_most = null] = bounds[code] ?? [];
          onChange({ ...count, at_least, at_most });
        }}
      />
      {mode === "most"
        ? field("Number", high, (at_most) => ({ ...count, at_most }))
        : field("Number", low, (at_least) =>
            mode === "exactly" ? { ...count, at_least, at_most: at_least } : { ...count, at_least },
          )}
      {mode === "between" ? (
        <>
          <span>and</span>
          {field("Highest number", high, (at_most) => ({ ...count, at_most }))}
        </>
      ) : null}
      <span>{mode === "exactly" && low === 1 ? "entry" : "entries"}</span>
    </>
  );
}
