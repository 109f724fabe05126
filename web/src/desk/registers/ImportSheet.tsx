/** Rows out of a table: what its columns are, then all of them added. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { count } from "../document";
import { heldColumns, MatchColumns, type Matched, type Table } from "../tables/MatchColumns";
import { TableFile } from "../tables/TableFile";
import { faultAt, otherFault, useDoing } from "../useDoing";
import type { Column } from "./columns";
import { bringRows, bringTable, registerRead, registerWork } from "./data";

interface Asked {
  workId: string;
  columns: Record<string, string>;
}

interface MatchingProps {
  id: string;
  table: Table;
  columns: readonly Column[];
  onAsked: (asked: Asked) => void;
}

function Matching({ id, table, columns, onAsked }: MatchingProps) {
  const [matched, setMatched] = useState<Matched>(table.proposed);
  const bringing = useDoing(
    () => bringRows(id, { table_id: table.id, columns: heldColumns(matched) }),
    [],
    (work) => onAsked({ workId: work.id, columns: heldColumns(matched) }),
  );
  const written = columns.filter(({ formula, type }) => !formula && type !== "files");
  const other = otherFault(
    bringing.error,
    table.columns.map((_, number) => `columns/${number}`),
  );
  return (
    <>
      <p>
        {table.name}: {count(table.rows, "row")} below the names of the columns. Say what each
        column is.
      </p>
      <MatchColumns
        table={table}
        choices={written.map(({ key, label }) => ({ code: key, label }))}
        verb="is"
        matched={matched}
        onMatch={setMatched}
        errorAt={(place) => faultAt(bringing.error, place)}
      />
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      <Actions>
        <Button
          weight="main"
          onPress={() => bringing.mutate()}
          isDisabled={bringing.isPending || !Object.keys(heldColumns(matched)).length}
        >
          Import {count(table.rows, "row")}
        </Button>
      </Actions>
    </>
  );
}

interface UnfitTold {
  number: number;
  column: string;
  said: string;
  why: string;
}

interface UnderWayProps {
  id: string;
  table: { id: string; rows: number };
  asked: Asked;
  onAsked: (asked: Asked) => void;
  onClose: () => void;
  onAgain: () => void;
}

/** Rows that are being added, and what came of it. */
export function UnderWay({ id, table, asked, onAsked, onClose, onAgain }: UnderWayProps) {
  const queries = useQueryClient();
  const work = useQuery(registerWork(id, asked.workId)).data;
  const added = work?.state === "done" ? Number(work.result["added"]) : 0;
  useEffect(() => {
    if (added) void queries.invalidateQueries({ queryKey: registerRead(id).queryKey });
  }, [added, queries, id]);
  const partly = useDoing(
    () => bringRows(id, { table_id: table.id, columns: asked.columns, partly: true }),
    [],
    (next) => onAsked({ ...asked, workId: next.id }),
  );
  if (work?.state === "failed") {
    const faults = work.result["faults"] as { message: string }[];
    return (
      <>
        <Strip tone="wrong">
          Nothing was added. {faults.map(({ message }) => message).join(" ")}
        </Strip>
        <Actions>
          <Button onPress={onAgain}>Choose the file again</Button>
        </Actions>
      </>
    );
  }
  if (work?.state !== "done")
    return (
      <p role="status">
        {work?.state === "running"
          ? `${work.done} of ${work.total} rows`
          : "Waiting for the worker to begin"}
      </p>
    );
  const unfit = Number(work.result["unfit"]);
  const told = work.result["told"] as UnfitTold[];
  const cells = count(unfit, "cell");
  return (
    <>
      {added ? (
        <p role="status">
          {count(added, "row")} added{unfit ? `; ${cells} left empty` : ""}.
        </p>
      ) : (
        <Strip tone="wrong">
          {cells} cannot be written, so nothing was added:
          <Lines>
            {told.slice(0, 20).map(({ number, column, said, why }, at) => (
              <li key={at}>
                <b>Row {number}</b>, {column}, “{said}”: {why}
              </li>
            ))}
            {unfit > 20 ? <li>and {unfit - 20} more</li> : null}
          </Lines>
        </Strip>
      )}
      {partly.error ? <Strip tone="wrong">{partly.error.message}</Strip> : null}
      <Actions>
        {added ? null : (
          <>
            <Button onPress={onAgain}>Choose another file</Button>
            <Button onPress={() => partly.mutate()} isDisabled={partly.isPending}>
              Import all rows and leave {cells} empty
            </Button>
          </>
        )}
        <Button weight="main" onPress={onClose}>
          Close
        </Button>
      </Actions>
    </>
  );
}

interface ImportProps {
  id: string;
  columns: readonly Column[];
  onClose: () => void;
}

function Import({ id, columns, onClose }: ImportProps) {
  const [table, setTable] = useState<Table | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const taking = useDoing((file: File) => bringTable(id, file), [], setTable);
  if (table && asked)
    return (
      <UnderWay
        key={asked.workId}
        id={id}
        table={table}
        asked={asked}
        onAsked={setAsked}
        onClose={onClose}
        onAgain={() => {
          setTable(null);
          setAsked(null);
        }}
      />
    );
  if (table)
    return <Matching key={table.id} id={id} table={table} columns={columns} onAsked={setAsked} />;
  return (
    <>
      <p>Each row of the table is added to the register. Rows that are there stay as they are.</p>
      <TableFile
        isReading={taking.isPending}
        error={taking.error}
        onFile={(file) => taking.mutate(file)}
      />
    </>
  );
}

export function ImportSheet({ open, ...rest }: ImportProps & { open: boolean }) {
  return (
    <Sheet title="Import rows" open={open} onClose={rest.onClose} width="wide">
      <Import {...rest} />
    </Sheet>
  );
}
