/** Entries: a table of what has arrived, and a reading pane. */
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Ledger } from "../../ui/Ledger";
import { Toggle } from "../../ui/Toggle";
import { Mono, Quiet, Unseen } from "../../ui/text";
import { entryPage } from "../data";
import { entryNumber } from "../document";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Broken, Empty, Waiting } from "../shell/states";
import { ThingName } from "../shell/ThingName";
import { useOlder } from "../useOlder";
import { when } from "../when";
import { Covered } from "./Covered";
import { statusName, useStatuses } from "../handling";
import { Reading } from "./Reading";
import { Statuses } from "./Statuses";

type Entry = Schema<"EntryOut">;
type Column = Schema<"ColumnOut">;

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 384px;
  height: calc(100vh - 102px);
  min-height: 420px;
  @media (max-width: 980px) {
    grid-template-columns: minmax(0, 1fr);
    height: auto;
  }
`;

const Table = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  min-width: 0;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-height: 0;
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  padding: 11px 16px;
  align-items: baseline;
  h2 {
    font-size: 15.5px;
  }
  small {
    margin-inline-start: auto;
    color: var(--ink-2);
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    align-items: baseline;
  }
`;

const RowButton = styled.button`
  border: 0;
  background: none;
  padding: 0;
  cursor: pointer;
  font: 12.5px var(--mono);
  min-height: 24px;
  text-decoration: underline;
  color: var(--accent);
`;

const Heading = styled.th`
  span {
    display: block;
  }
`;

function Cell({ column, entry, cleared }: { column: Column; entry: Entry; cleared: boolean }) {
  if (column.restricted) {
    if (cleared && !entry.withheld?.includes(column.key)) return <td>—</td>;
    return (
      <td>
        <Covered aria-hidden="true" />
        <Unseen>Restricted</Unseen>
      </td>
    );
  }
  const number = column.kind === "number" || undefined;
  return <td data-number={number}>{entry.answers[column.key] ?? "—"}</td>;
}

/** Entries are looked up by the id of what they are about. */
function AboutFilter({ id, about }: { id: string; about: string }) {
  const navigate = useNavigate();
  const [wanted, setWanted] = useState(about);
  return (
    <form
      role="search"
      style={{ display: "flex", gap: 6, alignItems: "end" }}
      onSubmit={(event) => {
        event.preventDefault();
        const search = wanted.trim() ? { about: wanted.trim() } : {};
        void navigate({ to: "/q/$id/entries", params: { id }, search });
      }}
    >
      <Field label="About" value={wanted} maxLength={1000} narrow onChange={setWanted} />
      <Button type="submit">Look up</Button>
      {about ? (
        <Link to="/q/$id/entries" params={{ id }} search={{}}>
          All entries
        </Link>
      ) : null}
    </form>
  );
}

export function EntriesPlace() {
  const id = usePlaceId();
  const { entry: chosen, about = "" } = useSearch({ from: "/q/$id/entries" });
  const navigate = useNavigate();
  const [archived, setArchived] = useState(false);
  const statuses = useStatuses(id);
  const writes = useRight("write");
  const query = useOlder(
    ["entries", id, about, archived],
    (before) => entryPage(id, before, about, archived),
    (page) => page.entries.at(-1)?.number,
  );
  if (query.isError) return <Broken error={query.error} onRetry={() => void query.refetch()} />;
  const head = query.data?.pages[0];
  if (!head) return <Waiting />;
  const entries = query.data?.pages.flatMap((page) => page.entries) ?? [];
  if (!entries.length && about) {
    return (
      <Empty title={`No entries about ${about}`}>
        <p>Look whether the id is written as in the other system, capitals included.</p>
        <AboutFilter id={id} about={about} />
      </Empty>
    );
  }
  if (!entries.length && head.total && !archived) {
    return (
      <Empty title="Every entry is in the archive">
        <Button onPress={() => setArchived(true)}>Show the archive too</Button>
      </Empty>
    );
  }
  if (!entries.length) {
    return (
      <Empty title="No entries yet">
        <p>
          What people send lands here, the newest first.{" "}
          <Link to="/q/$id/gate" params={{ id }}>
            See who may come in
          </Link>{" "}
          and{" "}
          <Link to="/q/$id/links" params={{ id }}>
            the link to pass on
          </Link>
          .
        </p>
      </Empty>
    );
  }
  const choose = (entry: string) =>
    void navigate({
      to: "/q/$id/entries",
      params: { id },
      search: about ? { entry, about } : { entry },
    });
  const current = chosen ?? entries[0]?.id;
  const columns = head.columns;
  const things = entries.some((one) => one.about);
  return (
    <Whole>
      <Table>
        <Head>
          <h2>{about ? `Entries about ${about}` : "All entries"}</h2>
          <Quiet>{about ? entries.length : `${entries.length} of ${head.total}`}</Quiet>
          {about || entries.some((one) => one.about) ? (
            <AboutFilter key={about} id={id} about={about} />
          ) : null}
          <small>
            <Toggle isSelected={archived} onChange={setArchived}>
              With the archive
            </Toggle>
            {writes ? <Statuses id={id} /> : null}
            <span>
              {columns.length} columns,{" "}
              <a
                href={`/api/questionnaires/${id}/editions/newest/entry-schema`}
                download="entry.json"
              >
                as JSON Schema
              </a>
            </span>
          </small>
        </Head>
        <Ledger name="Entries">
          <thead>
            <tr>
              <th scope="col">No.</th>
              <th scope="col">Arrived ↓</th>
              {statuses.length ? <th scope="col">Status</th> : null}
              {things ? <th scope="col">About</th> : null}
              {columns.map((column) => (
                <Heading
                  key={column.key}
                  scope="col"
                  title={column.label}
                  data-number={column.kind === "number" || undefined}
                >
                  {column.label.length > 22 ? `${column.label.slice(0, 21)}…` : column.label}
                  <Mono>{column.restricted ? "restricted" : column.key}</Mono>
                </Heading>
              ))}
            </tr>
          </thead>
          <tbody>
            {entries.map((entry) => (
              <tr
                key={entry.id}
                data-pressable
                data-selected={entry.id === current || undefined}
                onClick={() => choose(entry.id)}
              >
                <td>
                  <RowButton
                    type="button"
                    aria-label={`Entry ${entryNumber(entry.number)}`}
                    aria-current={entry.id === current}
                    onClick={() => choose(entry.id)}
                  >
                    {entryNumber(entry.number)}
                  </RowButton>
                </td>
                <td>
                  {when(entry.arrived)}
                  {entry.archived ? " " : null}
                  {entry.archived ? <Tag $as="plain">Archived</Tag> : null}
                </td>
                {statuses.length ? <td>{statusName(statuses, entry.status) || "—"}</td> : null}
                {things ? <td>{entry.about ? <ThingName thing={entry.about} /> : "—"}</td> : null}
                {columns.map((column) => (
                  <Cell key={column.key} column={column} entry={entry} cleared={head.cleared} />
                ))}
              </tr>
            ))}
          </tbody>
        </Ledger>
        {query.hasNextPage ? (
          <Button weight="word" onPress={() => void query.fetchNextPage()}>
            Show older entries
          </Button>
        ) : null}
      </Table>
      {current ? <Reading key={current} id={id} entryId={current} /> : null}
    </Whole>
  );
}
