/** Rehearsal: exactly what the rules would do with a past entry. Nothing is sent. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import styled from "styled-components";

import { client, ApiError, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { questionnaire } from "../data";
import { say, everyItem, type Doc } from "../document";
import { sentence } from "../condition/words";
import { entryNumber } from "../document";
import { subjectOf } from "../subjects";
import { sticky } from "../shell/Section";
import type { Dispatch, Register } from "./rules";

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 20px;
  display: grid;
  gap: 10px;
  align-content: start;
  min-width: 0;
  ${sticky}
  h2 {
    font-size: 21px;
  }
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
  justify-content: space-between;
`;

const Effect = styled.article`
  border: 1px solid var(--line-2);
  border-radius: 4px;
  overflow-wrap: anywhere;
  header {
    background: var(--mist);
    padding: 7px 11px;
    font-size: 13.5px;
  }
  dl {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 2px 12px;
    padding: 9px 11px;
  }
  dt {
    color: var(--ink-2);
  }
  pre {
    font: inherit;
    white-space: pre-wrap;
    margin: 0;
    padding: 9px 11px;
  }
`;

type Outcome = Schema<"Rehearsal">["effects"][number];

function Shown({ effect, known }: { effect: Outcome; known: readonly Register[] }) {
  if (effect.kind === "notice") {
    return (
      <Effect>
        <header>
          To <b>{effect.to}</b>
          <br />
          {effect.subject}
        </header>
        <pre>{effect.body || "(no words)"}</pre>
      </Effect>
    );
  }
  const register = known.find(({ id }) => id === effect.register_id);
  return (
    <Effect>
      <header>
        {register?.name}, <b>new row</b>
      </header>
      <dl>
        {register?.columns.map((column) => {
          const value = effect.values[column.key];
          return (
            <div key={column.key} style={{ display: "contents" }}>
              <dt>{column.label}</dt>
              <dd>
                {value === undefined ? (
                  <Quiet>left out</Quiet>
                ) : typeof value === "boolean" ? (
                  value ? (
                    "Yes"
                  ) : (
                    "No"
                  )
                ) : (
                  value
                )}
              </dd>
            </div>
          );
        })}
      </dl>
    </Effect>
  );
}

interface RehearsalProps {
  id: string;
  rules: Dispatch;
  known: readonly Register[];
  doc: Doc;
}

function caught(result: Schema<"Rehearsal">, { rules, doc }: RehearsalProps): string {
  const at = (rules.rules ?? []).findIndex(({ key }) => key === result.caught_by);
  const rule = rules.rules?.[at];
  if (!rule) return "No rule catches it. What stands under Otherwise is done.";
  const subjects = everyItem(doc).map((item) => subjectOf(doc, item));
  return `Rule ${at + 1} catches it: ${sentence(rule.when, subjects)}.`;
}

export function Rehearsal(props: RehearsalProps) {
  const { id, rules, known, doc } = props;
  const total = useQuery(questionnaire(id)).data?.entries ?? 0;
  const [number, setNumber] = useState<number | null>(null);
  const tried = useDeferredValue(rules);
  const query = useQuery({
    queryKey: ["rehearsal", id, number, tried],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/rehearsals", {
          params: { path: { id } },
          body: { dispatch: tried, number },
        }),
      ),
    enabled: total > 0,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
  const result = query.data;
  const fault =
    query.error instanceof ApiError ? (query.error.faults[0]?.message ?? query.error.message) : "";
  return (
    <Side aria-label="Rehearsal">
      <Head>
        <h2>Rehearsal</h2>
        <Quiet>nothing is sent</Quiet>
      </Head>
      {total === 0 ? (
        <p>Once {say(doc, doc.title)} has an entry, it can be rehearsed here.</p>
      ) : null}
      {result ? (
        <Head>
          <b>Entry {entryNumber(result.number)}</b>
          <span>
            <Button isDisabled={result.number <= 1} onPress={() => setNumber(result.number - 1)}>
              Earlier
            </Button>{" "}
            <Button
              isDisabled={result.number >= total}
              onPress={() => setNumber(result.number + 1)}
            >
              Later
            </Button>
          </span>
        </Head>
      ) : null}
      {fault ? (
        <p role="status">It cannot be rehearsed yet. {fault}</p>
      ) : result ? (
        <>
          <p>{caught(result, props)}</p>
          {result.effects.map((effect, at) => (
            <Shown key={at} effect={effect} known={known} />
          ))}
          {result.effects.length ? null : <Quiet>Nothing would happen.</Quiet>}
        </>
      ) : null}
    </Side>
  );
}
