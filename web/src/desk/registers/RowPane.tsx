/** One row of a register: what it holds, where it came from, and what became of it. */
import { queryOptions, useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { bytesInWords, entryNumber } from "../document";
import { Loaded } from "../shell/states";
import { ThingName } from "../shell/ThingName";
import { whenAmid } from "../when";
import { cellWords, type People } from "./columns";
import { KeptBeside } from "./KeptBeside";

type Read = Schema<"RowRead">;
type Change = Read["changes"][number];

const rowOf = (id: string, row: number) =>
  queryOptions({
    queryKey: ["register", id, "row", row],
    queryFn: () =>
      got(
        client.GET("/api/registers/{id}/rows/{row_id}", {
          params: { path: { id, row_id: row } },
        }),
      ),
    refetchInterval: 4000,
  });

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 16px 20px;
  overflow: auto;
  display: grid;
  align-content: start;
  gap: 10px;
  overflow-wrap: anywhere;
  dl {
    display: grid;
    grid-template-columns: minmax(90px, auto) minmax(0, 1fr);
    gap: 2px 12px;
  }
  dt {
    color: var(--ink-2);
  }
  header {
    display: flex;
    gap: 10px;
    justify-content: space-between;
  }
  img {
    display: block;
    max-width: 100%;
    border-radius: 4px;
    margin-bottom: 4px;
  }
  li {
    border-top: 1px solid var(--line);
    padding: 6px 0;
  }
`;

interface SaidProps {
  change: Change;
  columns: Read["columns"];
  people: People;
}

function Said({ change, columns, people }: SaidProps) {
  const label = (key: string) => columns.find((one) => one.key === key);
  if (change.did === "removed") return <div>Deleted</div>;
  if (change.did === "restored") return <div>Put back</div>;
  if (change.did === "filed") return <div>{change.rule ? "Filed" : "Added"}</div>;
  const keys = Object.keys({ ...change.before, ...change.after });
  return keys.map((key) => (
    <div key={key}>
      {label(key)?.label ?? key}{" "}
      <del>{cellWords(change.before[key], label(key), people) || "empty"}</del> to{" "}
      <b>{cellWords(change.after[key], label(key), people) || "empty"}</b>
    </div>
  ));
}

function by({ who, entry_number, rule }: Change): string {
  if (who) return who;
  const entry = entry_number === null ? "" : ` of entry ${entryNumber(entry_number)}`;
  if (!rule) return `by a rule${entry}`;
  return rule === "otherwise" ? `by Otherwise${entry}` : `by the rule ${rule}${entry}`;
}

function Source({ read }: { read: Read }) {
  if (read.row.entry_number === null) return <Quiet>Added by hand.</Quiet>;
  const number = entryNumber(read.row.entry_number);
  if (read.gone) return <Quiet>From entry {number}, which was deleted.</Quiet>;
  if (!read.questionnaire_id || !read.entry_id) return <Quiet>From entry {number}.</Quiet>;
  return (
    <p>
      From{" "}
      <Link
        to="/q/$id/entries"
        params={{ id: read.questionnaire_id }}
        search={{ entry: read.entry_id }}
      >
        entry {number}
      </Link>
    </p>
  );
}

/** The entry that a cell names. */
function Named({ read, column }: { read: Read; column: Read["columns"][number] }) {
  const number = Number(read.row.values[column.key]);
  return (
    <Link
      to="/q/$id/entries"
      params={{ id: column.of ?? "" }}
      search={{ entry: read.named?.[column.key] ?? "" }}
    >
      entry {entryNumber(number)}
    </Link>
  );
}

/** The files of a row: pictures to look at, everything to save. */
function FilesOf({ id, read }: { id: string; read: Read }) {
  const at = (file: string) => `/api/registers/${id}/rows/${read.row.id}/files/${file}`;
  const kept = new Set(
    read.columns
      .filter(({ type }) => type === "files")
      .flatMap(({ key }) => read.row.values[key] ?? []),
  );
  const files = read.files.filter((one) => kept.has(one.id));
  if (!files.length) return null;
  return (
    <ul aria-label="Files">
      {files.map((one) => (
        <li key={one.id}>
          {one.type.startsWith("image/") ? (
            <img src={`${at(one.id)}?small=true`} alt={`Preview of ${one.name}`} />
          ) : null}
          <a href={at(one.id)} download={one.name}>
            {one.name}
          </a>{" "}
          <Quiet>{bytesInWords(one.size)}</Quiet>
        </li>
      ))}
    </ul>
  );
}

interface RowPaneProps {
  id: string;
  row: number;
  people: People;
  onClose: () => void;
}

export function RowPane({ id, row, people, onClose }: RowPaneProps) {
  return (
    <Side aria-label={`Row ${row}`}>
      <header>
        <h2>Row {row}</h2>
        <Button weight="word" onPress={onClose}>
          Close
        </Button>
      </header>
      <Loaded query={useQuery(rowOf(id, row))}>
        {(read) => (
          <>
            <Source read={read} />
            {read.row.about ? <ThingName thing={read.row.about} /> : null}
            <dl>
              {read.columns.map((column) => (
                <div key={column.key} style={{ display: "contents" }}>
                  <dt>{column.label}</dt>
                  <dd>
                    {read.named?.[column.key] ? (
                      <Named read={read} column={column} />
                    ) : (
                      cellWords(read.row.values[column.key], column, people) || <Quiet>empty</Quiet>
                    )}
                  </dd>
                </div>
              ))}
            </dl>
            <FilesOf id={id} read={read} />
            {read.kept?.length ? <KeptBeside key={row} id={id} row={row} kept={read.kept} /> : null}
            <h3>What happened to it</h3>
            <ul>
              {read.changes.map((change, at) => (
                <li key={at}>
                  <Said change={change} columns={read.columns} people={people} />
                  <Quiet>
                    {by(change)}, {whenAmid(change.at)}
                  </Quiet>
                </li>
              ))}
            </ul>
          </>
        )}
      </Loaded>
    </Side>
  );
}
