/** The name and the columns of a register that is there. What cells cannot be kept is said first. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { registers } from "../data";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { areReady, ColumnFields, keyed } from "./ColumnFields";
import type { Column } from "./columns";
import { putRegister, registerRead, type RegisterRead } from "./data";

interface FormProps {
  read: RegisterRead;
  /** The key of the column that one came for. */
  at: string;
  onClose: () => void;
}

const cells = (count: number) => (count === 1 ? "1 cell" : `${count.toLocaleString("en")} cells`);

function Form({ read: { register, rights }, at, onClose }: FormProps) {
  const queries = useQueryClient();
  const [name, setName] = useState(register.name);
  const [cleared, setCleared] = useState(register.cleared ?? false);
  const [columns, setColumns] = useState<readonly Column[]>(register.columns);
  const putting = useDoing(
    (clear: boolean) =>
      putRegister(register.id, {
        revision: register.revision ?? 1,
        name,
        columns: keyed(columns),
        clear,
        cleared,
      }),
    [],
    ({ unfit }) => {
      if (unfit) return;
      void queries.invalidateQueries(registers);
      void queries
        .invalidateQueries({ queryKey: registerRead(register.id).queryKey })
        .then(onClose);
    },
  );
  const gone = register.columns.filter(({ key }) => !columns.some((one) => one.key === key));
  const unfit = putting.data?.unfit ?? 0;
  const label = (key: string) => columns.find((one) => one.key === key)?.label ?? key;
  const failed = otherFault(putting.error, ["name"]);
  const ready = Boolean(name.trim()) && areReady(columns) && !putting.isPending;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) putting.mutate(false);
      }}
    >
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Field
        label="Name"
        value={name}
        onChange={setName}
        error={faultAt(putting.error, "name")}
        isRequired
      />
      <ColumnFields
        columns={columns}
        at={at}
        onChange={(next) => {
          setColumns(next);
          putting.reset();
        }}
      />
      {rights.includes("share") ? (
        <Toggle isSelected={cleared} onChange={setCleared}>
          Rules may keep restricted answers beside its rows, for people with clearance
        </Toggle>
      ) : null}
      {register.cleared && !cleared ? (
        <Strip tone="care">What is restricted beside its rows goes for good.</Strip>
      ) : null}
      {gone.length ? (
        <Strip tone="care">
          {gone.map((one) => one.label).join(", ")} goes with everything in it. What stood there is
          kept in the history of each row.
        </Strip>
      ) : null}
      {unfit ? (
        <Strip tone="wrong">
          {cells(unfit)} cannot be kept like this, so nothing was changed:
          <ul>
            {putting.data?.told.slice(0, 5).map((one) => (
              <li key={`${one.row}/${one.column}`}>
                Row {one.row}, {label(one.column)}, “{one.said}”: {one.why}
              </li>
            ))}
          </ul>
        </Strip>
      ) : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        {unfit ? (
          <Button onPress={() => putting.mutate(true)}>Change it and clear {cells(unfit)}</Button>
        ) : null}
        <Button weight="main" type="submit" isDisabled={!ready}>
          Change columns
        </Button>
      </Actions>
    </form>
  );
}

export function ColumnsSheet({ open, ...rest }: FormProps & { open: boolean }) {
  return (
    <Sheet title="Columns" open={open} onClose={rest.onClose}>
      <Form key={rest.read.register.revision} {...rest} />
    </Sheet>
  );
}
