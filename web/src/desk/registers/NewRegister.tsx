/** Making a register: its name and its columns. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { registers } from "../data";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { areReady, BLANK, ColumnFields, keyed } from "./ColumnFields";
import type { Column } from "./columns";

type Register = Schema<"RegisterOut">;

interface NewRegisterProps {
  open: boolean;
  /** The columns to begin with. */
  columns: readonly Column[];
  onClose: () => void;
  onMade: (register: Register) => void;
}

function Form({ columns: given, onClose, onMade }: Omit<NewRegisterProps, "open">) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [columns, setColumns] = useState<readonly Column[]>(given.length ? given : [BLANK]);
  const making = useDoing(
    () => got(client.POST("/api/registers", { body: { name, columns: keyed(columns) } })),
    [],
    (register) => void queries.invalidateQueries(registers).then(() => onMade(register)),
  );
  const ready = Boolean(name.trim()) && areReady(columns);
  const failed = otherFault(making.error, ["name"]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) making.mutate();
      }}
    >
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Field
        label="Name"
        value={name}
        onChange={setName}
        error={faultAt(making.error, "name")}
        autoFocus
        isRequired
      />
      <ColumnFields columns={columns} onChange={setColumns} />
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
