/** What became of an entry: how it was changed, and what dispatch did with it. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import type { Schema } from "../../../client/client";
import { Quiet } from "../../../ui/text";
import { registers } from "../../data";
import { when } from "../../when";
import { Versions } from "./Versions";

type Run = Schema<"RunOut">;

const Happened = styled.ul`
  li {
    padding: 4px 0;
    color: var(--ink-2);
    font-size: 13.5px;
  }
`;

function RunLine({ run, names }: { run: Run; names: ReadonlyMap<string, string> }) {
  if (run.kind === "row" && run.row !== null) {
    const id = run.register_id ?? "";
    return (
      <li>
        {when(run.changed)} filed to register{" "}
        <Link to="/registers/$registerId" params={{ registerId: id }}>
          {names.get(id) ?? "that is gone"}
        </Link>
        , row {run.row}
      </li>
    );
  }
  return (
    <li>
      {when(run.changed)} {told(run)}
      {run.last_error && run.state !== "done" ? `: ${run.last_error}` : ""}
    </li>
  );
}

const WHAT: Record<Schema<"RunOut">["kind"], string> = {
  row: "row",
  notice: "notice",
  call: "call",
  status: "status",
  care: "who takes care",
  contact: "field of the contact",
  value: "carried value",
  list: "place on a contact list",
};

const onList = (asks: boolean) =>
  asks ? "asked by letter whether to be on a contact list" : "added to a contact list";

/** What came of a run, in words. */
function told({ kind, state, subject, to, tries, said, asks }: Schema<"RunOut">): string {
  const what = kind === "notice" ? `notice “${subject ?? ""}”` : WHAT[kind];
  const whom = kind === "notice" && to ? ` to ${to}` : "";
  switch (state) {
    case "done":
      if (kind === "notice") return `${what} sent${whom}`;
      if (kind === "call") return `${what} taken`;
      return `${kind === "list" ? onList(asks) : `${what} set`}${said ? ` (${said})` : ""}`;
    case "waiting":
      return `${what} waits to be sent${whom}`;
    case "failing":
      return `${what} could not be sent${whom} ${tries} times, is tried again`;
    case "failed":
      return `${what}${whom} could not be done and waits for somebody`;
    case "left_out":
      return `${what}${whom} was left out`;
    case "skipped":
      return `${what}${whom} was skipped`;
  }
}

interface HappenedProps {
  id: string;
  read: Schema<"EntryRead">;
  /** Whether one sees the trail of this questionnaire. */
  follows: boolean;
  /** Why restricted answers are looked at, where that is asked. */
  reason: string;
}

export function WhatHappened({ id, read, follows, reason }: HappenedProps) {
  const known = useQuery(registers).data ?? [];
  const names = new Map(known.map((register) => [register.id, register.name]));
  return (
    <>
      <h3>What happened</h3>
      {follows ? (
        <p>
          <Link to="/trail" search={{ questionnaire: id, entry: read.entry.id }}>
            Who has seen and done what with it
          </Link>
        </p>
      ) : null}
      {read.versions?.length ? (
        <Happened>
          <Versions id={id} read={read} reason={reason} />
        </Happened>
      ) : null}
      {read.runs.length ? (
        <Happened>
          {read.runs.map((run) => (
            <RunLine key={run.id} run={run} names={names} />
          ))}
        </Happened>
      ) : (
        <Quiet>Nothing yet. No dispatch rule has acted on it.</Quiet>
      )}
    </>
  );
}
