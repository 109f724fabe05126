/** Making a register: its name and its columns. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { keyFrom } from "../keys";
import { registers } from "../data";
import { TYPES, type ColumnType } from "./columns";

export type Column = Schema<"Column">;
type Register = Schema<"RegisterOut">;

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px auto;
  gap: 10px;
  align-items: end;
  margin-top: 8px;
`;

const Options = styled.div`
  grid-column: 1 / -1;
`;

const PICKED = ["pick_one", "pick_many"];

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

interface NewRegisterProps {
  open: boolean;
  /** The columns to begin with. */
  columns: readonly Column[];
  onClose: () => void;
  onMade: (register: Register) => void;
}

/** Columns with keys made from their labels, each its own; a column without label falls out. */
function keyed(columns: readonly Column[]): Column[] {
  const taken = new Set<string>();
  return columns
    .filter((column) => column.label.trim())
    .map((column) => {
      const key = keyFrom(column.key || column.label, taken, "column");
      taken.add(key);
      return { ...column, key, label: column.label.trim() };
    });
}

/** Options as they are written, with the codes that they had before. */
function keptCodes(column: Column, written: string): Column["options"] {
  const before = new Map((column.options ?? []).map(({ code, label }) => [label, code]));
  return optionsIn(written).map((one) => ({ ...one, code: before.get(one.label) ?? one.code }));
}

function Form({ columns: given, onClose, onMade }: Omit<NewRegisterProps, "open">) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [columns, setColumns] = useState<readonly Column[]>(
    given.length ? given : [{ key: "", label: "", type: "text" }],
  );
  const set = (position: number, change: Partial<Column>) =>
    setColumns(columns.map((one, at) => (at === position ? { ...one, ...change } : one)));
  const making = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/registers", {
          body: { name, columns: keyed(columns) },
        }),
      ),
    onSuccess: async (register) => {
      await queries.invalidateQueries(registers);
      onMade(register);
    },
  });
  const ready =
    Boolean(name.trim()) &&
    keyed(columns).length > 0 &&
    columns.every(({ type, options }) => !PICKED.includes(type ?? "") || options?.length);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) making.mutate();
      }}
    >
      {making.error ? <Strip tone="wrong">{making.error.message}</Strip> : null}
      <Field label="Name" value={name} onChange={setName} autoFocus isRequired />
      {columns.map((column, position) => (
        <Row key={position}>
          <Field
            label={`Column ${position + 1}`}
            value={column.label}
            onChange={(label) => set(position, { label })}
          />
          <Picker
            label="Takes"
            options={Object.entries(TYPES).map(([code, label]) => ({ code, label }))}
            value={column.type ?? "text"}
            onChange={(type) =>
              set(position, {
                type: type as ColumnType,
                options: PICKED.includes(type) ? (column.options ?? []) : [],
              })
            }
          />
          <Button
            weight="word"
            aria-label={`Remove column ${position + 1}`}
            onPress={() => setColumns(columns.filter((_, at) => at !== position))}
          >
            Remove
          </Button>
          {PICKED.includes(column.type ?? "") ? (
            <Options>
              <Field
                label={`Options of column ${position + 1}`}
                help="One in each line"
                lines={3}
                defaultValue={(column.options ?? []).map(({ label }) => label).join("\n")}
                onChange={(written) => set(position, { options: keptCodes(column, written) })}
              />
            </Options>
          ) : null}
        </Row>
      ))}
      <Button
        weight="word"
        onPress={() => setColumns([...columns, { key: "", label: "", type: "text" }])}
      >
        Add a column
      </Button>
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" type="submit" isDisabled={!ready || making.isPending}>
          Make register
        </Button>
      </Actions>
    </form>
  );
}

export function NewRegister({ open, ...rest }: NewRegisterProps) {
  return (
    <Sheet title="New register" open={open} onClose={rest.onClose}>
      <Form {...rest} />
    </Sheet>
  );
}
