/** The columns of a register, each with its name and what it takes. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { begin, FormulaParts } from "../kinds/FormulaFields";
import { questionnaires } from "../data";
import { keyFrom } from "../keys";
import { PICKED, TYPES, type Column, type ColumnType } from "./columns";
import { subjectsOf } from "./subjects";

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px auto;
  gap: 10px;
  align-items: end;
  margin-top: 8px;
  @media (max-width: 480px) {
    grid-template-columns: minmax(0, 1fr);
    align-items: start;
  }
`;

const More = styled.div`
  grid-column: 1 / -1;
  display: grid;
  gap: 8px;
  border-inline-start: 3px solid var(--accent-soft);
  padding-inline-start: 10px;
`;

/** What is picked from, a line for each option. */
function optionsIn(written: string): NonNullable<Column["options"]> {
  const taken = new Set<string>();
  return written
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean)
    .map((label) => {
      const code = keyFrom(label, taken, "option");
      taken.add(code);
      return { code, label: label.slice(0, 80) };
    });
}

/** Options as they are written, with the codes that they had before: by their words, or else by
 * the line on which they stand, where only their words were changed. */
function keptCodes(column: Column, written: string): Column["options"] {
  const before = column.options ?? [];
  const made = optionsIn(written);
  const byLabel = new Map(before.map(({ code, label }) => [label, code]));
  const reworded = made.length === before.length;
  const kept = made.map((one, at) => {
    const code = byLabel.get(one.label) ?? (reworded ? before[at]?.code : undefined);
    return { ...one, code: code ?? one.code };
  });
  const twice = new Set(kept.map(({ code }) => code)).size < kept.length;
  return twice ? made.map((one) => ({ ...one, code: byLabel.get(one.label) ?? one.code })) : kept;
}

/** Columns with keys made from their labels, each its own; a column without label falls out. */
export function keyed(columns: readonly Column[]): Column[] {
  const taken = new Set(columns.map(({ key }) => key).filter(Boolean));
  return columns
    .filter((column) => column.label.trim())
    .map((column) => {
      const key = column.key || keyFrom(column.label, taken, "column");
      taken.add(key);
      return { ...column, key, label: column.label.trim() };
    });
}

/** Whether all that columns need is there. */
export const areReady = (columns: readonly Column[]): boolean =>
  keyed(columns).length > 0 &&
  columns.every(({ type, options, of }) =>
    type === "entry" ? of : !PICKED.includes(type ?? "") || options?.length,
  );

const EDGES: readonly { code: string; label: string }[] = [];

interface ColumnFieldsProps {
  columns: readonly Column[];
  onChange: (columns: Column[]) => void;
  /** The key of the column that one came for. */
  at?: string;
}

export function ColumnFields({ columns, onChange, at }: ColumnFieldsProps) {
  const asked = useQuery(questionnaires).data ?? [];
  const set = (position: number, change: Partial<Column>) =>
    onChange(columns.map((one, other) => (other === position ? { ...one, ...change } : one)));
  const into = (position: number, type: ColumnType) => {
    const { key, label, options = [] } = columns[position] ?? BLANK;
    const others = keyed(columns.filter((_, other) => other !== position));
    const next: Column = { key, label, type };
    if (PICKED.includes(type)) next.options = options;
    if (type === "computed") next.formula = begin("count", subjectsOf(others), EDGES);
    onChange(columns.map((one, other) => (other === position ? next : one)));
  };
  return (
    <>
      {columns.map((column, position) => (
        <Row key={position}>
          <Field
            label={`Column ${position + 1}`}
            value={column.label}
            onChange={(label) => set(position, { label })}
            autoFocus={Boolean(at) && column.key === at}
          />
          <Picker
            label="Takes"
            options={Object.entries(TYPES).map(([code, label]) => ({ code, label }))}
            value={column.type ?? "text"}
            onChange={(type) => into(position, type as ColumnType)}
          />
          <Button
            weight="word"
            aria-label={`Remove column ${position + 1}`}
            onPress={() => onChange(columns.filter((_, other) => other !== position))}
          >
            Remove
          </Button>
          {PICKED.includes(column.type ?? "") ? (
            <More>
              <Field
                label={`Options of column ${position + 1}`}
                help="One in each line"
                lines={3}
                defaultValue={(column.options ?? []).map(({ label }) => label).join("\n")}
                onChange={(written) => set(position, { options: keptCodes(column, written) })}
              />
            </More>
          ) : null}
          {column.type === "entry" ? (
            <More>
              <Picker
                label={`Entries of column ${position + 1}`}
                options={asked.map(({ id, title }) => ({ code: id, label: title }))}
                value={column.of ?? null}
                onChange={(of) => set(position, { of })}
              />
            </More>
          ) : null}
          {column.formula ? (
            <More>
              <FormulaParts
                formula={column.formula}
                subjects={subjectsOf(keyed(columns.filter((one) => one !== column)))}
                codesOf={(key) => columns.find((one) => one.key === key)?.options ?? []}
                edge={EDGES}
                onChange={(formula) => set(position, { formula })}
              />
            </More>
          ) : null}
        </Row>
      ))}
      <div>
        <Button weight="word" onPress={() => onChange([...columns, BLANK])}>
          Add a column
        </Button>
      </div>
    </>
  );
}

export const BLANK: Column = { key: "", label: "", type: "text" };
