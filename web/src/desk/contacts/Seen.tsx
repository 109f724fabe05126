/** What was seen in a table of contacts, before anything is written. */
import { useQuery } from "@tanstack/react-query";
import { useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { count } from "../document";
import type { Table } from "../tables/MatchColumns";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { bringContacts, contactLists } from "./data";

interface Row {
  number: number;
  state: "known" | "doubled" | "clash";
  called: string;
  of_number: number | null;
  of_contact: string;
}

interface Result {
  new: number;
  known: number;
  doubled: number;
  clash: number;
  out: number;
  wrong: number;
  rows: Row[];
  faults: { number: number; message: string }[];
}

const Counts = styled.p`
  max-width: 70ch;
`;

const line = (number: number) => `Row ${number + 1}`;

function about(row: Row): string {
  if (row.state === "doubled") return `repeats row ${(row.of_number ?? 0) + 1}`;
  if (row.state === "clash") return "has the address of several contacts";
  return `is ${row.of_contact || "a contact"} already`;
}

function Rows({ name, rows, more }: { name: string; rows: Row[]; more: number }) {
  if (!rows.length) return null;
  return (
    <details>
      <summary>{name}</summary>
      <Lines>
        {rows.map((row) => (
          <li key={row.number}>
            <b>{line(row.number)}</b> {row.called} {about(row)}
          </li>
        ))}
        {more > 0 ? <li>and {more} more</li> : null}
      </Lines>
    </details>
  );
}

const KNOWN = [
  { code: "update", label: "brought up to date with what the table has" },
  { code: "keep", label: "left as they are" },
];

const NONE = "";
const NEW = "new";

interface SeenProps {
  result: Readonly<Record<string, unknown>>;
  table: Table;
  onWrite: (workId: string) => void;
}

export function Seen({ result, table, onWrite }: SeenProps) {
  const seen = result as unknown as Result;
  const { list = NONE } = useSearch({ from: "/office/contacts/import" });
  const lists = useQuery(contactLists).data ?? [];
  const [known, setKnown] = useState("update");
  const [to, setTo] = useState(list || NEW);
  const [name, setName] = useState(table.name.replace(/\.[a-z]+$/i, ""));
  const writing = useDoing(
    () =>
      bringContacts({
        table_id: table.id,
        known: known === "keep" ? "keep" : "update",
        list_id: to && to !== NEW ? to : null,
        new_list: to === NEW ? name : "",
      }),
    [],
    (work) => onWrite(work.id),
  );
  const other = otherFault(writing.error, ["new_list", "name"]);
  const rowsOf = (state: Row["state"]) => seen.rows.filter((row) => row.state === state);
  const left = seen.wrong + seen.doubled + seen.clash;
  return (
    <>
      <Counts role="status">
        {count(seen.new, "row")} {seen.new === 1 ? "is" : "are"} new, {count(seen.known, "row")}{" "}
        {seen.known === 1 ? "is a contact" : "are contacts"} already.
        {left ? ` ${count(left, "row")} will be left out.` : " No row will be left out."}
        {seen.out ? ` ${seen.out} of them opted out and stay so.` : ""}
      </Counts>
      {seen.wrong ? (
        <>
          <Strip tone="wrong">{count(seen.wrong, "row")} cannot be contacts as they are.</Strip>
          <Lines>
            {seen.faults.map(({ number, message }) => (
              <li key={number}>
                <b>{line(number)}</b> {message}
              </li>
            ))}
            {seen.wrong > seen.faults.length ? (
              <li>and {seen.wrong - seen.faults.length} more</li>
            ) : null}
          </Lines>
        </>
      ) : null}
      <Rows
        name={`Repeated in the table: ${count(seen.doubled, "row")}`}
        rows={rowsOf("doubled")}
        more={seen.doubled - rowsOf("doubled").length}
      />
      <Rows
        name={`With the address of several contacts: ${count(seen.clash, "row")}`}
        rows={rowsOf("clash")}
        more={seen.clash - rowsOf("clash").length}
      />
      <Rows
        name={`Contacts already: ${count(seen.known, "row")}`}
        rows={rowsOf("known")}
        more={seen.known - rowsOf("known").length}
      />
      {seen.known ? (
        <p>
          Those that are there already are{" "}
          <Choose
            name="What becomes of those that are there already"
            value={known}
            options={KNOWN}
            onChange={setKnown}
          />
        </p>
      ) : null}
      <p>
        All of them are put on{" "}
        <Choose
          name="The list to put them on"
          value={to}
          options={[
            { code: NEW, label: "a new list" },
            { code: NONE, label: "no list" },
            ...lists.map((one) => ({ code: one.id, label: one.name })),
          ]}
          onChange={setTo}
        />
      </p>
      {to === NEW ? (
        <Field
          label="Name of the new list"
          value={name}
          maxLength={120}
          error={faultAt(writing.error, "new_list") ?? faultAt(writing.error, "name")}
          onChange={setName}
        />
      ) : null}
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button
          weight="main"
          onPress={() => writing.mutate()}
          isDisabled={writing.isPending || !(seen.new + seen.known)}
        >
          Import {count(seen.new + seen.known, "contact")}
        </Button>
      </Actions>
    </>
  );
}
