/** What dispatch has not done yet, of all entries: done again, skipped, and all sending paused. */
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Ledger } from "../../ui/Ledger";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Mono, Quiet } from "../../ui/text";
import { entryNumber } from "../document";
import { useRight } from "../shell/rights";
import { Broken, Empty, Waiting } from "../shell/states";
import { useDoing } from "../useDoing";
import { useOlder } from "../useOlder";
import { whenAmid } from "../when";
import { Line } from "./kit";
import type { Dispatch, Register } from "./rules";

type Run = Schema<"OpenRunOut">;

const path = (id: string) => ({ params: { path: { id } } });

/** What is not done, a page at a time; looked at again every few seconds. */
export const useOpenRuns = (id: string) =>
  useOlder<Schema<"RunPage">, Run>(
    ["runs", id],
    (last) =>
      got(
        client.GET("/api/questionnaires/{id}/runs", {
          params: {
            path: { id },
            query: last ? { before: last.changed, before_id: last.id } : {},
          },
        }),
      ),
    (page) => page.runs.at(-1),
    5_000,
  );

const Whole = styled.div`
  padding: 20px clamp(14px, 2.4vw, 30px) 40px;
  display: grid;
  gap: 12px;
  min-width: 0;
  h2 {
    font-size: 22px;
  }
`;

const SET = {
  status: "Status",
  care: "Who takes care",
  contact: "Field of the contact",
  value: "Carried value",
  list: "On a contact list",
};

function what(run: Run, { known, hooks }: RunsProps): string {
  switch (run.kind) {
    case "notice":
      return run.to ? `Notice to ${run.to}` : "Notice";
    case "row": {
      const register = known.find(({ id }) => id === run.register_id);
      return register ? `Row in ${register.name}` : "Row in a register";
    }
    case "call": {
      const hook = hooks.find(({ id }) => id === run.hook_id);
      return hook ? `Call of ${hook.name}` : "Call";
    }
    default:
      return SET[run.kind] + (run.said ? ` (${run.said})` : "");
  }
}

function ruleName(run: Run, rules: Dispatch): string {
  if (run.rule === "otherwise") return "Otherwise";
  const at = (rules.rules ?? []).findIndex(({ key }) => key === run.rule);
  if (at >= 0) return `Rule ${at + 1}`;
  const on = (rules.on_status ?? []).findIndex(({ key }) => key === run.rule);
  return on < 0 ? "a rule that is gone" : `Status rule ${on + 1}`;
}

function standing(run: Run, paused: boolean): string {
  if (run.state === "failed") return "Somebody has to see to it";
  if (paused) return "Waits, since sending is paused";
  const next = run.next_try ? whenAmid(run.next_try) : "soon";
  return run.state === "failing" ? `Tried ${run.tries} times, again ${next}` : `Goes out ${next}`;
}

interface ToolsProps {
  id: string;
  run: Run;
}

const changes = (id: string) => [["runs", id], ["dispatch", id], ["entry", id], ["registers"]];

function Skipping({ id, run }: ToolsProps) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const skipping = useDoing(
    () =>
      got(
        client.POST("/api/questionnaires/{id}/runs/skipped", {
          ...path(id),
          body: { ids: [run.id], reason },
        }),
      ),
    changes(id),
    () => setOpen(false),
  );
  return (
    <>
      <Button weight="word" onPress={() => setOpen(true)}>
        Skip
      </Button>
      <Sheet title="Skip it" open={open} onClose={() => setOpen(false)}>
        {skipping.error ? <Strip tone="wrong">{skipping.error.message}</Strip> : null}
        <Field
          label="Reason"
          help="It stands with the entry and on the trail."
          value={reason}
          maxLength={300}
          onChange={setReason}
          autoFocus
        />
        <Actions>
          <Button onPress={() => setOpen(false)}>Cancel</Button>
          <Button
            weight="main"
            isDisabled={!reason.trim() || skipping.isPending}
            onPress={() => skipping.mutate()}
          >
            Skip
          </Button>
        </Actions>
      </Sheet>
    </>
  );
}

function Tools({ id, run }: ToolsProps) {
  const again = useDoing(
    () =>
      got(
        client.POST("/api/questionnaires/{id}/runs/again", {
          ...path(id),
          body: { ids: [run.id] },
        }),
      ),
    changes(id),
  );
  const wrong = again.error?.message ?? again.data?.find((one) => one.wrong)?.wrong;
  return (
    <Line>
      <Button weight="word" isDisabled={again.isPending} onPress={() => again.mutate()}>
        Do it again
      </Button>
      <Skipping id={id} run={run} />
      {wrong ? <Strip tone="wrong">{wrong}</Strip> : null}
    </Line>
  );
}

function Sending({ id, paused }: { id: string; paused: string | null }) {
  const putting = useDoing(
    (pause: boolean) =>
      got(client.PUT("/api/questionnaires/{id}/sending", { ...path(id), body: { paused: pause } })),
    [["runs", id]],
  );
  return (
    <Line>
      {paused ? (
        <Strip>Nothing is sent since {whenAmid(paused)}. Rows are still filed.</Strip>
      ) : null}
      <Button isDisabled={putting.isPending} onPress={() => putting.mutate(!paused)}>
        {paused ? "Go on sending" : "Pause all sending"}
      </Button>
    </Line>
  );
}

interface RunsProps {
  id: string;
  rules: Dispatch;
  known: readonly Register[];
  hooks: readonly Schema<"HookOut">[];
}

function Table({ runs, paused, ...props }: RunsProps & { runs: Run[]; paused: boolean }) {
  const { id, rules } = props;
  const writes = useRight("write");
  return (
    <Ledger name="Not done yet">
      <thead>
        <tr>
          <th scope="col">Entry</th>
          <th scope="col">What</th>
          <th scope="col">By</th>
          <th scope="col">How it stands</th>
          {writes ? <th scope="col">To do</th> : null}
        </tr>
      </thead>
      <tbody>
        {runs.map((run) => (
          <tr key={run.id}>
            <td>
              <Link to="/q/$id/entries" params={{ id }} search={{ entry: run.entry_id }}>
                <Mono>{entryNumber(run.entry_number)}</Mono>
              </Link>
            </td>
            <td>{what(run, props)}</td>
            <td>{ruleName(run, rules)}</td>
            <td>
              {standing(run, paused)}
              {run.last_error ? <p>{run.last_error}</p> : null}
              {run.answered?.words ? <Mono>{run.answered.words.slice(0, 120)}</Mono> : null}
            </td>
            {writes ? (
              <td>
                <Tools id={id} run={run} />
              </td>
            ) : null}
          </tr>
        ))}
      </tbody>
    </Ledger>
  );
}

export function Runs(props: RunsProps) {
  const writes = useRight("write");
  const query = useOpenRuns(props.id);
  if (query.isError) return <Broken error={query.error} onRetry={() => void query.refetch()} />;
  const pages = query.data?.pages;
  if (!pages) return <Waiting />;
  const runs = pages.flatMap((page) => page.runs);
  const paused = pages[0]?.paused ?? null;
  return (
    <Whole>
      <div>
        <h2>Not done yet</h2>
        <Quiet>What waits to be sent, is tried again, or somebody has to see to.</Quiet>
      </div>
      {writes ? <Sending id={props.id} paused={paused} /> : null}
      {runs.length ? (
        <Table {...props} runs={runs} paused={paused !== null} />
      ) : (
        <Empty title="Everything is done">
          <p>What waits or fails stands here until it is done or skipped.</p>
        </Empty>
      )}
      {query.hasNextPage ? (
        <Button onPress={() => void query.fetchNextPage()}>Show older</Button>
      ) : null}
    </Whole>
  );
}
