/** The reading pane: one entry, its restricted answers on request, and what happened to it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState, type RefObject } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { entry, ownClearance, registers } from "../data";
import { entryNumber } from "../document";
import { useMe } from "../shell/me";
import { useRight } from "../shell/rights";
import { Loaded } from "../shell/states";
import { faultAt, otherFault } from "../useDoing";
import { when, whole } from "../when";
import { CameBy } from "./CameBy";
import { Detail } from "./Detail";
import { Covered } from "./Covered";
import { DeleteEntry } from "./DeleteEntry";
import { Handle } from "./Handle";
import { Notes } from "./Notes";
import { Print } from "./Print";
import { Versions } from "./Versions";

type Read = Schema<"EntryRead">;
type Run = Schema<"RunOut">;

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 18px 20px 40px;
  overflow: auto;
  min-width: 0;
  overflow-wrap: anywhere;
  h2 {
    font-size: 21px;
  }
  h3 {
    font-size: 14.5px;
    margin-top: 18px;
  }
`;

const Steps = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 8px;
`;

const Answers = styled.dl`
  margin-top: 10px;
  > div {
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  dt {
    color: var(--ink-2);
    font-size: 13.5px;
  }
  dd {
    font-size: 15.5px;
    white-space: pre-line;
  }
`;

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

/** What came of a run, in words. */
function told({ kind, state, subject, to, tries, said }: Schema<"RunOut">): string {
  const what = kind === "notice" ? `notice “${subject ?? ""}”` : WHAT[kind];
  const whom = kind === "notice" && to ? ` to ${to}` : "";
  switch (state) {
    case "done":
      if (kind === "notice") return `${what} sent${whom}`;
      if (kind === "call") return `${what} taken`;
      return `${kind === "list" ? "added to a contact list" : `${what} set`}${said ? ` (${said})` : ""}`;
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

/** What was revealed, for as long as one has clearance: it is asked for every few seconds. */
function useWhileCleared(id: string, revealed: Schema<"Revealed"> | undefined) {
  const standing = useQuery({ ...ownClearance(id), enabled: revealed !== undefined });
  return standing.data?.cleared === false || standing.isError ? undefined : revealed;
}

function Body({ read, id }: { read: Read; id: string }) {
  const queries = useQueryClient();
  const known = useQuery(registers).data ?? [];
  const names = new Map(known.map((register) => [register.id, register.name]));
  const [reason, setReason] = useState("");
  const mayFollow = useMe().rights.includes("follow");
  const follows = useRight("share") || mayFollow;
  const writes = useRight("write");
  const revealing = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/entries/{entry_id}/revealed", {
          params: { path: { id, entry_id: read.entry.id } },
          body: { reason },
        }),
      ),
    gcTime: 0,
    onSuccess: () => queries.invalidateQueries({ queryKey: ["trail"] }),
  });
  const { answers, number, arrived, edition, finish, flags, withheld } = read.entry;
  const revealed = useWhileCleared(id, revealing.data);
  const seen = revealed?.answers;
  const ended = finish || revealed?.finish;
  const details = { ...read.details, ...revealed?.details };
  const base = `/api/questionnaires/${id}/entries/${read.entry.id}`;
  const shown = read.columns.filter(({ key, restricted }) =>
    restricted ? !withheld || withheld.includes(key) : key in answers,
  );
  return (
    <>
      <h2>
        {entryNumber(number)} {answers["name"] ?? ""}
      </h2>
      <Quiet>
        {whole(arrived)}, edition {edition}
        {ended ? <>, ended at &ldquo;{ended}&rdquo;</> : null}
      </Quiet>
      <p style={{ marginTop: 8 }}>
        <Print id={id} numbers={[number]} />
      </p>
      <CameBy id={id} came={read.came} about={read.entry.about} />
      <Handle id={id} entry={read.entry} />
      {flags.length ? (
        <Strip>The link brought a value that will not do: {flags.join(", ")}</Strip>
      ) : null}
      <Answers>
        {shown.map((column) => (
          <div key={column.key}>
            <dt>
              {column.label} {column.restricted ? <Tag $as="care">Restricted</Tag> : null}
              {column.restricted && read.cleared && follows ? (
                <>
                  {" "}
                  <Link
                    to="/trail"
                    search={{ questionnaire: id, entry: read.entry.id, answer: column.key }}
                    aria-label={`Seen by: ${column.label}`}
                  >
                    Seen by
                  </Link>
                </>
              ) : null}
            </dt>
            <dd>
              <Answered
                words={column.restricted ? seen?.[column.key] : answers[column.key]}
                detail={details[column.key]}
                label={column.label}
                base={base}
                reason={reason}
              />
            </dd>
          </div>
        ))}
      </Answers>
      {!read.cleared && read.columns.some(({ restricted }) => restricted) ? (
        <p style={{ marginTop: 10 }}>
          You need clearance for the restricted answers. They are not on this screen.
        </p>
      ) : null}
      {read.cleared && (withheld?.length || !finish) && !seen ? (
        <form
          style={{ marginTop: 12, display: "grid", gap: 8, justifyItems: "start" }}
          onSubmit={(event) => {
            event.preventDefault();
            revealing.mutate();
          }}
        >
          {read.asks_reason ? (
            <Field
              label="Why do you have to see them?"
              value={reason}
              error={faultAt(revealing.error, "reason")}
              onChange={setReason}
              style={{ width: "100%" }}
            />
          ) : null}
          <Button type="submit" isDisabled={revealing.isPending}>
            Read the restricted answers
          </Button>
          <Quiet>The trail notes that you did{read.asks_reason ? ", and why" : ""}.</Quiet>
        </form>
      ) : null}
      {otherFault(revealing.error, ["reason"]) ? (
        <Strip tone="wrong">{revealing.error?.message}</Strip>
      ) : null}
      <Notes id={id} entryId={read.entry.id} />
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
      {writes ? (
        <p style={{ marginTop: 18 }}>
          <DeleteEntry id={id} entryId={read.entry.id} number={number} />
        </p>
      ) : null}
    </>
  );
}

interface AnsweredProps {
  words: string | undefined;
  detail: Schema<"DetailOut"> | undefined;
  label: string;
  base: string;
  reason: string;
}

/** An answer in words, or in full where it has more than words; covered while it is not read. */
function Answered({ words, detail, label, base, reason }: AnsweredProps) {
  if (words === undefined) return <Covered aria-hidden="true" />;
  return detail ? <Detail detail={detail} base={base} words={label} reason={reason} /> : words;
}

interface ReadingProps {
  id: string;
  entryId: string;
  pane: RefObject<HTMLDivElement | null>;
  /** Where it stands among those that are looked at; -1 where it is not among them. */
  at: number;
  of: number;
  onStep: (by: number) => void;
}

export function Reading({ id, entryId, pane, at, of, onStep }: ReadingProps) {
  const query = useQuery(entry(id, entryId));
  return (
    <Side aria-label="The entry" ref={pane} tabIndex={-1}>
      <Steps>
        <Button weight="word" isDisabled={at <= 0} onPress={() => onStep(-1)}>
          Previous
        </Button>
        <Quiet>{at < 0 ? "" : `${at + 1} of ${of}`}</Quiet>
        <Button weight="word" isDisabled={at < 0 || at + 1 >= of} onPress={() => onStep(1)}>
          Next
        </Button>
      </Steps>
      <Loaded query={query}>{(read) => <Body key={read.entry.id} read={read} id={id} />}</Loaded>
    </Side>
  );
}
