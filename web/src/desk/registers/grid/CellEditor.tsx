/** What a cell is written in: one line, or several for a long text; options are proposed. */
import { useEffect, useRef, type KeyboardEvent } from "react";

import type { Column, People } from "../columns";

/** Where one goes from a cell that was written. */
export type Onward = "down" | "up" | "right" | "left" | "stay";

interface CellEditorProps {
  column: Column;
  people: People;
  text: string;
  /** What somebody else wrote there meanwhile. */
  told: string;
  onText: (text: string) => void;
  onDone: (onward: Onward) => void;
  onCancel: () => void;
}

function proposals(column: Column, people: People): string[] {
  if (column.type === "yes_no") return ["Yes", "No"];
  if (column.type === "person") return [...people.values()];
  return (column.options ?? []).map(({ label }) => label);
}

const HINTS: Partial<Record<NonNullable<Column["type"]>, string>> = {
  date: "27 Nov 2026",
  time: "14:05",
  date_time: "2026-11-27 14:05",
  pick_many: "one, another",
};

function onwardOf(event: KeyboardEvent): Onward | null {
  if (event.key === "Enter" && !event.altKey) return event.shiftKey ? "up" : "down";
  if (event.key === "Tab") return event.shiftKey ? "left" : "right";
  return null;
}

export function CellEditor(props: CellEditorProps) {
  const { column, people, text, told, onText, onDone, onCancel } = props;
  const field = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  useEffect(() => {
    const one = field.current;
    one?.focus({ preventScroll: true });
    one?.setSelectionRange(one.value.length, one.value.length);
  }, []);
  const offered = proposals(column, people);
  const shared = {
    ref: field,
    "aria-label": column.label,
    "aria-describedby": told ? "cell-told" : undefined,
    value: text,
    maxLength: 10_000,
    placeholder: HINTS[column.type ?? "text"],
    onBlur: () => onDone("stay"),
    onKeyDown: (event: KeyboardEvent<HTMLInputElement & HTMLTextAreaElement>) => {
      event.stopPropagation();
      const onward = onwardOf(event);
      if (event.key === "Escape") {
        event.preventDefault();
        onCancel();
      } else if (onward) {
        event.preventDefault();
        onDone(onward);
      } else if (event.key === "Enter" && event.altKey && column.type === "long_text") {
        event.preventDefault();
        event.currentTarget.setRangeText("\n", text.length, text.length, "end");
        onText(event.currentTarget.value);
      }
    },
  };
  return (
    <span className="editor">
      {column.type === "long_text" ? (
        <textarea {...shared} rows={5} onChange={(event) => onText(event.target.value)} />
      ) : (
        <input
          {...shared}
          list={offered.length && column.type !== "pick_many" ? "cell-proposals" : undefined}
          onChange={(event) => onText(event.target.value)}
        />
      )}
      {offered.length ? (
        <datalist id="cell-proposals">
          {offered.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      ) : null}
      {told ? (
        <span className="why" id="cell-told" role="status">
          {told}
        </span>
      ) : null}
    </span>
  );
}
