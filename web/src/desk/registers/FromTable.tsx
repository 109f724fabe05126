/** A register that is made of a table: its columns are proposed by what stands in it. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { registers } from "../data";
import { count } from "../document";
import { TableFile } from "../tables/TableFile";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { areReady, ColumnFields, keyed } from "./ColumnFields";
import type { Column } from "./columns";
import { bringNewTable, bringRows } from "./data";
import { UnderWay } from "./ImportSheet";

interface FromTableProps {
  onClose: () => void;
  onMade: (id: string) => void;
}

type Taken = Schema<"NewTableOut">;

interface Made {
  id: string;
  workId: string;
  columns: Record<string, string>;
}

/** The register, and the work that adds the rows to it. */
async function make(taken: Taken, name: string, columns: readonly Column[]): Promise<Made> {
  const made = keyed(columns);
  const register = await got(client.POST("/api/registers", { body: { name, columns: made } }));
  const proposed = taken.columns.map(({ key }) => key);
  const held = Object.fromEntries(
    made.flatMap(({ key, formula, type }) => {
      const at = proposed.indexOf(key);
      return at < 0 || formula || type === "files" ? [] : [[String(at), key]];
    }),
  );
  const work = await bringRows(register.id, { table_id: taken.table.id, columns: held });
  return { id: register.id, workId: work.id, columns: held };
}

function Making({ taken, onMade }: { taken: Taken; onMade: (made: Made) => void }) {
  const [name, setName] = useState(taken.table.name.replace(/\.[^.]*$/, "").slice(0, 80));
  const [columns, setColumns] = useState<readonly Column[]>(taken.columns);
  const queries = useQueryClient();
  const making = useDoing(
    () => make(taken, name, columns),
    [],
    (made) => void queries.invalidateQueries(registers).then(() => onMade(made)),
  );
  const ready = Boolean(name.trim()) && areReady(columns) && !making.isPending;
  const failed = otherFault(making.error, ["name"]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) making.mutate();
      }}
    >
      <p>
        {count(taken.table.rows, "row")}. What the columns take is proposed by what stands in them;
        change it where it is meant otherwise.
      </p>
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Field
        label="Name"
        value={name}
        onChange={setName}
        error={faultAt(making.error, "name")}
        isRequired
      />
      <ColumnFields columns={columns} onChange={setColumns} />
      <Actions>
        <Button weight="main" type="submit" isDisabled={!ready}>
          Make register
        </Button>
      </Actions>
    </form>
  );
}

function Steps({ onClose, onMade }: FromTableProps) {
  const [taken, setTaken] = useState<Taken | null>(null);
  const [made, setMade] = useState<Made | null>(null);
  const taking = useDoing(bringNewTable, [], setTaken);
  if (taken && made)
    return (
      <UnderWay
        key={made.workId}
        id={made.id}
        table={taken.table}
        asked={made}
        onAsked={(asked) => setMade({ ...made, ...asked })}
        onClose={() => onMade(made.id)}
        onAgain={onClose}
      />
    );
  if (taken) return <Making key={taken.table.id} taken={taken} onMade={setMade} />;
  return (
    <TableFile
      isReading={taking.isPending}
      error={taking.error}
      onFile={(file) => taking.mutate(file)}
    />
  );
}

export function FromTable({ open, ...rest }: FromTableProps & { open: boolean }) {
  return (
    <Sheet title="New register from a file" open={open} onClose={rest.onClose} width="wide">
      <Steps {...rest} />
    </Sheet>
  );
}
