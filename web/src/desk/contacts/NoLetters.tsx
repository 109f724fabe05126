/** Who must not be written to: looked up, brought in from a table, added and taken out by hand. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Ledger } from "../../ui/Ledger";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { RoomHead } from "../shell/Office";
import { Broken, Empty, Waiting } from "../shell/states";
import type { Table } from "../tables/MatchColumns";
import { TableFile } from "../tables/TableFile";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { useOlder } from "../useOlder";
import { useRested } from "../useRested";
import { onDay } from "../when";
import { hasEnded } from "../work";
import {
  bringNoLetters,
  bringTable,
  contactWork,
  CONTACTS,
  NO_LETTERS,
  noLetters,
  setNoLetters,
  type NoLettersPage,
} from "./data";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  justify-items: start;
  max-width: 900px;
  overflow-wrap: anywhere;
  > * {
    max-width: 100%;
  }
  h2 {
    font-size: 19px;
  }
  form > div > :first-child {
    width: min(340px, 100%);
  }
`;

/** Which column has the addresses, as far as its name tells. */
const guessed = (table: Table): string =>
  Object.entries(table.proposed).find(([, field]) => field === "email")?.[0] ?? "0";

function Bringing({ table, onDone }: { table: Table; onDone: () => void }) {
  const queries = useQueryClient();
  const [column, setColumn] = useState(() => guessed(table));
  const [workId, setWorkId] = useState("");
  const asking = useDoing(
    () => bringNoLetters({ table_id: table.id, column: Number(column) }),
    [],
    (work) => setWorkId(work.id),
  );
  const work = useQuery({ ...contactWork(workId), enabled: Boolean(workId) }).data;
  const ended = hasEnded(work);
  useEffect(() => {
    if (!ended) return;
    void queries.invalidateQueries({ queryKey: NO_LETTERS });
    void queries.invalidateQueries({ queryKey: CONTACTS });
  }, [ended, queries]);
  if (work && ended) {
    const faults = (work.result["faults"] ?? []) as { message: string }[];
    const rows = (work.result["rows"] ?? []) as { number: number; written: string }[];
    const wrong = Number(work.result["wrong"] ?? 0);
    return (
      <>
        {faults.length ? (
          <Strip tone="wrong">{faults.map(({ message }) => message).join(" ")}</Strip>
        ) : (
          <Strip tone="calm">
            Nothing goes to {count(Number(work.result["stopped"]), "further address")} from now on.
          </Strip>
        )}
        {wrong ? (
          <>
            <p>{count(wrong, "row")} had no mail address there, and was left out:</p>
            <Lines>
              {rows.map(({ number, written }) => (
                <li key={number}>
                  Row {number}: {written}
                </li>
              ))}
            </Lines>
          </>
        ) : null}
        <Button onPress={onDone}>Close</Button>
      </>
    );
  }
  if (workId) {
    return <p role="status">{work ? `${work.done} of ${work.total} rows` : "Waiting to begin"}</p>;
  }
  return (
    <>
      <p>
        {table.name}: {count(table.rows, "row")}. The addresses stand in the column{" "}
        <Choose
          name="Column of the addresses"
          value={column}
          options={table.columns.map((label, at) => ({ code: String(at), label }))}
          onChange={setColumn}
        />
      </p>
      {asking.error ? <Strip tone="wrong">{asking.error.message}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" isDisabled={asking.isPending} onPress={() => asking.mutate()}>
          Have nothing go to them
        </Button>
        <Button onPress={onDone}>Cancel</Button>
      </Actions>
    </>
  );
}

function OneMore() {
  const [email, setEmail] = useState("");
  const adding = useDoing(
    () => setNoLetters({ email, out: true }),
    [NO_LETTERS, CONTACTS],
    () => setEmail(""),
  );
  const other = otherFault(adding.error, ["email"]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        adding.mutate();
      }}
    >
      <Actions style={{ justifyContent: "flex-start", alignItems: "flex-end" }}>
        <Field
          label="One more address"
          value={email}
          maxLength={254}
          error={faultAt(adding.error, "email")}
          onChange={setEmail}
        />
        <Button type="submit" isDisabled={adding.isPending}>
          Add
        </Button>
      </Actions>
      {other ? <Strip tone="wrong">{other}</Strip> : null}
    </form>
  );
}

function Found({ words }: { words: string }) {
  const query = useOlder<NoLettersPage, string>(
    [...NO_LETTERS, words],
    (after) => noLetters(words, after ?? ""),
    (page) => page.found.at(-1)?.email,
  );
  const back = useDoing(
    (email: string) => setNoLetters({ email, out: false }),
    [NO_LETTERS, CONTACTS],
  );
  if (query.isError)
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands="part" />;
  if (!query.data) return <Waiting />;
  const found = query.data.pages.flatMap((page) => page.found);
  if (!found.length) {
    return (
      <Empty title={words ? "Nobody is found" : "Nobody opted out yet"}>
        <p>
          {words
            ? "No address has this in it."
            : "Who opts out by a letter stands here too, also once the contact is deleted."}
        </p>
      </Empty>
    );
  }
  return (
    <>
      <Quiet role="status">{count(query.data.pages[0]?.count ?? 0, "address")} in all</Quiet>
      {back.error ? <Strip tone="wrong">{back.error.message}</Strip> : null}
      <Ledger name="Who must not be written to">
        <thead>
          <tr>
            <th scope="col">Mail address</th>
            <th scope="col">Since</th>
            <th scope="col">By</th>
            <th scope="col">Change</th>
          </tr>
        </thead>
        <tbody>
          {found.map((one) => (
            <tr key={one.email}>
              <td>{one.email}</td>
              <td>{onDay(one.at)}</td>
              <td>{one.told || "the way out in a letter"}</td>
              <td>
                <Button
                  weight="word"
                  aria-label={`They asked to be written to again: ${one.email}`}
                  onPress={() => back.mutate(one.email)}
                >
                  They asked to be written to again
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Ledger>
      {query.hasNextPage ? (
        <Button onPress={() => void query.fetchNextPage()}>Show more</Button>
      ) : null}
    </>
  );
}

export function NoLetters() {
  const [table, setTable] = useState<Table | null>(null);
  const [typed, setTyped] = useState("");
  const words = useRested(typed.trim(), 250);
  const bringing = useDoing(bringTable, [], setTable);
  return (
    <>
      <RoomHead>
        <h1>Who gets no letters</h1>
        <Link to="/contacts">Back to the contacts</Link>
      </RoomHead>
      <Whole>
        <p>
          No letter of any questionnaire goes to these addresses, whatever list they are on, also
          when they are brought in again as contacts.
        </p>
        {table ? (
          <Bringing key={table.id} table={table} onDone={() => setTable(null)} />
        ) : (
          <>
            <OneMore />
            <h2>Many from a table</h2>
            <TableFile
              isReading={bringing.isPending}
              error={bringing.error}
              onFile={(file) => bringing.mutate(file)}
            />
          </>
        )}
        <h2>Who is there</h2>
        <Field label="Search" type="search" value={typed} maxLength={200} onChange={setTyped} />
        <Found key={words} words={words} />
      </Whole>
    </>
  );
}
