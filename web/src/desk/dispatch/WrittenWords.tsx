/** A text with slots: a field, and what puts a slot in where one was writing. */
import { useRef } from "react";

import { Field } from "../../ui/Field";
import type { Subject } from "../subjects";
import { Stack } from "./kit";
import { SlotAdder } from "./SlotAdder";
import type { Part } from "./subjects";

interface WrittenWordsProps {
  label: string;
  lines?: number;
  help?: string;
  error?: string | undefined;
  value: string;
  subjects: readonly Subject[];
  parts: readonly Part[];
  onChange: (value: string) => void;
}

/** A text with a slot at a place, apart from the words beside it. */
export function withSlot(text: string, slot: string, at: number): string {
  const before = text.slice(0, at);
  const behind = text.slice(at);
  const lead = /[\p{L}\p{N}}]$/u.test(before) ? " " : "";
  const tail = /^[\p{L}\p{N}{]/u.test(behind) ? " " : "";
  return `${before}${lead}${slot}${tail}${behind}`;
}

export function WrittenWords({ value, subjects, parts, onChange, ...field }: WrittenWordsProps) {
  const at = useRef<number | null>(null);
  return (
    <Stack
      onBlur={({ target }) => {
        if (target instanceof HTMLTextAreaElement) at.current = target.selectionStart;
      }}
    >
      <Field {...field} lines={field.lines ?? 2} value={value} onChange={onChange} dir="auto" />
      <SlotAdder
        subjects={subjects}
        parts={parts}
        onAdd={(slot) => {
          const place = Math.min(at.current ?? value.length, value.length);
          at.current = null;
          onChange(withSlot(value, slot, place));
        }}
      />
    </Stack>
  );
}
