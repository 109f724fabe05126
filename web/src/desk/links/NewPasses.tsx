/** Making passes from a table: the file, what its columns bring, then one pass a row. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Ledger } from "../../ui/Ledger";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count, type Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { endOf } from "../when";
import { bringTable, makePasses, ways, workOf } from "./data";
import { given, slotsOf, verdict, type Slot, type Values } from "./values";
import { ValuesForm } from "./ValuesForm";

type Table = Schema<"TableOut">;
type Matched = Readonly<Record<string, string>>;

const Whole = styled.div`
  display: grid;
  gap: 16px;
`;

const Chosen = styled.label`
  display: block;
  font-weight: 600;
  input {
    display: block;
    margin-top: 4px;
    font-weight: 400;
    max-width: 100%;
  }
`;

const NOTHING = "";

interface MatchProps {
  table: Table;
  slots: readonly Slot[];
  matched: Matched;
  onMatch: (matched: Matched) => void;
  errorAt: (at: string) => string | undefined;
}

/** The first rows, and above each column what it brings. */
function Columns({ table, slots, matched, onMatch, errorAt }: MatchProps) {
  const options = [
    { code: NOTHING, label: "Nothing" },
    ...slots.map(({ name, label }) => ({ code: name, label })),
  ];
  return (
    <Ledger name="What each column brings">
      <thead>
        <tr>
          {table.columns.map((column, at) => (
            <th key={column} scope="col">
              <div>{column}</div>
              <Choose
                name={`${column} brings`}
                options={options}
                value={matched[at] ?? NOTHING}
                onChange={(name) => onMatch({ ...matched, [at]: name })}
              />
              {errorAt(`columns/${at}`) ? <div role="alert">{errorAt(`columns/${at}`)}</div> : null}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.sample.map((row, at) => (
          <tr key={at}>
            {row.map((cell, column) => (
              <td key={column}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Ledger>
  );
}

function Progress({ workId, onAgain }: { workId: string; onAgain: () => void }) {
  const id = usePlaceId();
  const go = useNavigate();
  const queries = useQueryClient();
  const work = useQuery(workOf(id, workId)).data;
  const made = work?.state === "done" ? String(work.result["batch_id"]) : "";
  useEffect(() => {
    if (!made) return;
    void queries.invalidateQueries(ways(id));
    void go({ to: "/q/$id/links", params: { id }, search: { way: made }, replace: true });
  }, [made, queries, go, id]);
  if (work?.state !== "failed") {
    return (
      <p role="status">
        {work?.state === "running"
          ? `${work.done} of ${work.total} rows`
          : "Waiting for the worker to begin"}
      </p>
    );
  }
  const faults = work.result["faults"] as { at: string; message: string }[];
  return (
    <>
      <Strip tone="wrong">
        Nothing was made: {count(faults.length, "row")} will not do
        {faults.length >= 100 ? ", or more" : ""}.
      </Strip>
      <Lines>
        {faults.map(({ at, message }, number) => (
          <li key={number}>
            <b>{at.startsWith("rows/") ? `Row ${at.slice(5)}` : "The table"}</b> {message}
          </li>
        ))}
      </Lines>
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" onPress={onAgain}>
          Choose the file again
        </Button>
      </Actions>
    </>
  );
}

interface SettingsProps {
  doc: Doc;
  table: Table;
  onStarted: (workId: string) => void;
}

function Settings({ doc, table, onStarted }: SettingsProps) {
  const id = usePlaceId();
  const slots = slotsOf(doc, true);
  const [matched, setMatched] = useState<Matched>(table.proposed);
  const [name, setName] = useState(table.name.replace(/\.[a-z]+$/i, ""));
  const [values, setValues] = useState<Values>([]);
  const [until, setUntil] = useState("");
  const [uses, setUses] = useState("1");
  const brought = Object.values(matched).filter(Boolean);
  const making = useDoing(
    () =>
      makePasses(id, {
        name,
        table_id: table.id,
        columns: Object.fromEntries(Object.entries(matched).filter(([, one]) => one)),
        values: given(values),
        expires: endOf(until),
        uses: uses.trim() ? Number(uses) : null,
      }),
    [],
    (work) => onStarted(work.id),
  );
  const at = (place: string) => faultAt(making.error, place);
  const failed = otherFault(making.error, [
    "name",
    "expires",
    "uses",
    ...slots.map((slot) => slot.name),
    ...table.columns.map((_, number) => `columns/${number}`),
  ]);
  const others = slots.filter((slot) => !brought.includes(slot.name));
  return (
    <Whole>
      <p>
        {table.name}: {count(table.rows, "row")} below the names of the columns. One pass is made
        for each.
      </p>
      <Columns table={table} slots={slots} matched={matched} onMatch={setMatched} errorAt={at} />
      <Lines>
        {slots
          .filter((slot) => brought.includes(slot.name))
          .map((slot) => (
            <li key={slot.name}>
              <b>{slot.label}</b> <Quiet>{verdict(doc, slot, true)}</Quiet>
            </li>
          ))}
      </Lines>
      <h3>The same for all of them</h3>
      <ValuesForm
        doc={doc}
        slots={others}
        stored
        values={values}
        onChange={setValues}
        errorAt={at}
      />
      <Field label="Name" value={name} maxLength={120} error={at("name")} onChange={setName} />
      <Field
        label="Good until the end of"
        type="date"
        narrow
        value={until}
        help="Left empty, they are good until they are revoked."
        error={at("expires")}
        onChange={setUntil}
      />
      <Field
        label="Entries that each is good for"
        inputMode="numeric"
        narrow
        value={uses}
        help="Left empty, for any number."
        error={at("uses")}
        onChange={(text) => setUses(text.replace(/\D/g, ""))}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" onPress={() => making.mutate()} isDisabled={making.isPending}>
          Make {count(table.rows, "pass")}
        </Button>
      </Actions>
    </Whole>
  );
}

export function NewPasses({ doc }: { doc: Doc }) {
  const id = usePlaceId();
  const [table, setTable] = useState<Table | null>(null);
  const [workId, setWorkId] = useState("");
  const bringing = useDoing((file: File) => bringTable(id, file), [], setTable);
  const faults = otherFault(bringing.error, []);
  const again = () => {
    setTable(null);
    setWorkId("");
  };
  return (
    <Whole>
      <h2>Passes from a table</h2>
      {workId ? (
        <Progress workId={workId} onAgain={again} />
      ) : table ? (
        <Settings key={table.id} doc={doc} table={table} onStarted={setWorkId} />
      ) : (
        <>
          <p>
            A table with one person, household or well in each row. It comes back with a link of its
            own behind every row.
          </p>
          <Chosen>
            CSV or XLSX, up to 30 MB
            <input
              type="file"
              accept=".csv,.tsv,.txt,.xlsx,text/csv"
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) bringing.mutate(file);
              }}
            />
          </Chosen>
          <span role="status">{bringing.isPending ? "Reading the file" : ""}</span>
          {faults ? <Strip tone="wrong">{faults}</Strip> : null}
        </>
      )}
    </Whole>
  );
}
