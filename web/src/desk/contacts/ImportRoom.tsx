/** Contacts out of a table: what its columns hold, what the rows are, then all written at once. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { RoomHead } from "../shell/Office";
import { heldColumns, MatchColumns, type Matched, type Table } from "../tables/MatchColumns";
import { TableFile } from "../tables/TableFile";
import { faultAt, otherFault, useDoing } from "../useDoing";
import {
  BUILT_IN,
  bringTable,
  contactFields,
  contactWork,
  CONTACTS,
  LISTS,
  lookAtTable,
} from "./data";
import { Seen } from "./Seen";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
`;

function Matching({ table, onLook }: { table: Table; onLook: (workId: string) => void }) {
  const own = useQuery(contactFields).data ?? [];
  const [matched, setMatched] = useState<Matched>(table.proposed);
  const looking = useDoing(
    () => lookAtTable({ table_id: table.id, columns: heldColumns(matched) }),
    [],
    (work) => onLook(work.id),
  );
  const at = (place: string) => faultAt(looking.error, place);
  const other = otherFault(
    looking.error,
    table.columns.map((_, number) => `columns/${number}`),
  );
  return (
    <>
      <p>
        {table.name}: {count(table.rows, "row")} below the names of the columns. Say what each
        column holds. Nothing is written yet.
      </p>
      <MatchColumns
        table={table}
        choices={[...BUILT_IN, ...own].map(({ key, label }) => ({ code: key, label }))}
        verb="holds"
        matched={matched}
        onMatch={setMatched}
        errorAt={at}
      />
      <Quiet>
        A contact that is there already is known by its key, or by its mail address where one of
        both has no key. A column for a field that is not there yet: add the field among the
        contacts first.
      </Quiet>
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" onPress={() => looking.mutate()} isDisabled={looking.isPending}>
          Look at {count(table.rows, "row")}
        </Button>
      </Actions>
    </>
  );
}

interface UnderWayProps {
  workId: string;
  table: Table;
  onWrite: (workId: string) => void;
  onAgain: () => void;
}

/** Looking, then what was seen; writing, then what came of it. */
function UnderWay({ workId, table, onWrite, onAgain }: UnderWayProps) {
  const queries = useQueryClient();
  const work = useQuery(contactWork(workId)).data;
  const isWritten = work?.state === "done" && "added" in work.result;
  useEffect(() => {
    if (!isWritten) return;
    void queries.invalidateQueries({ queryKey: CONTACTS });
    void queries.invalidateQueries({ queryKey: LISTS });
  }, [isWritten, queries]);
  if (work?.state === "failed") {
    const faults = work.result["faults"] as { message: string }[];
    return (
      <>
        <Strip tone="wrong">Nothing was written.</Strip>
        <Lines>
          {faults.map(({ message }, at) => (
            <li key={at}>{message}</li>
          ))}
        </Lines>
        <div>
          <Button onPress={onAgain}>Choose the file again</Button>
        </div>
      </>
    );
  }
  if (work?.state !== "done") {
    return (
      <p role="status">
        {work?.state === "running"
          ? `${work.done} of ${work.total} rows`
          : "Waiting for the worker to begin"}
      </p>
    );
  }
  if (!isWritten) return <Seen result={work.result} table={table} onWrite={onWrite} />;
  const list = work.result["list_id"];
  return (
    <>
      <p role="status">
        {count(Number(work.result["added"]), "new contact")} and{" "}
        {count(Number(work.result["changed"]), "contact")} brought up to date.
      </p>
      <p>
        <Link to="/contacts" search={typeof list === "string" ? { list } : {}}>
          Show them
        </Link>
      </p>
    </>
  );
}

export function ImportRoom() {
  const { list = "" } = useSearch({ from: "/office/contacts/import" });
  const [table, setTable] = useState<Table | null>(null);
  const [workId, setWorkId] = useState("");
  const bringing = useDoing(bringTable, [], setTable);
  const again = () => {
    setTable(null);
    setWorkId("");
  };
  return (
    <>
      <RoomHead>
        <h1>Import contacts</h1>
        <Link to="/contacts" search={list ? { list } : {}}>
          Back to the contacts
        </Link>
      </RoomHead>
      <Whole>
        {table && workId ? (
          <UnderWay
            key={workId}
            workId={workId}
            table={table}
            onWrite={setWorkId}
            onAgain={again}
          />
        ) : table ? (
          <Matching key={table.id} table={table} onLook={setWorkId} />
        ) : (
          <>
            <p>A table with one person or organisation in each row, up to 200,000 rows.</p>
            <TableFile
              isReading={bringing.isPending}
              error={bringing.error}
              onFile={(file) => bringing.mutate(file)}
            />
          </>
        )}
      </Whole>
    </>
  );
}
