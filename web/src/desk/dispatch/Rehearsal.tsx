/** Rehearsal: exactly what the rules would do with a past entry. Nothing is sent. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, ApiError, got, type Fault, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { sentence } from "../condition/words";
import { questionnaire } from "../data";
import { entryNumber, say, type Doc } from "../document";
import { sticky } from "../shell/Section";
import { Differences } from "./Differences";
import type { Around } from "./editors";
import { Shown } from "./effects";
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

const Why = styled.details`
  summary {
    cursor: pointer;
    min-height: 26px;
  }
  li {
    display: flex;
    gap: 8px;
    justify-content: space-between;
    border-top: 1px solid var(--line);
    padding: 3px 0;
  }
`;

interface RehearsalProps {
  id: string;
  rules: Dispatch;
  known: readonly Register[];
  doc: Doc;
  around: Around;
  /** What keeps the rules from being used, as far as that is known yet. */
  faults: readonly Fault[];
  usable: Dispatch | null;
  /** Whether they differ from those in force. */
  changed: boolean;
}

type Result = Schema<"Rehearsal">;

function caught(result: Result, { rules, around }: RehearsalProps): string {
  const at = (rules.rules ?? []).findIndex(({ key }) => key === result.caught_by);
  const rule = rules.rules?.[at];
  if (!rule) return "No rule catches it. What stands under Otherwise is done.";
  const said = rule.when ? sentence(rule.when, around.subjects) : "it holds for every entry";
  return `Rule ${at + 1} catches it: ${said}.`;
}

const OUTCOMES = {
  acted: "acted along",
  caught: "caught it",
  passed_over: "passed over, caught before",
  does_not_hold: "does not hold",
  off: "switched off",
};

function Outcomes({ result, rules }: { result: Result; rules: Dispatch }) {
  const named = (rules.rules ?? []).map(({ key }, at) => ({ key, name: `Rule ${at + 1}` }));
  return (
    <Why>
      <summary>Why each rule acted or did not</summary>
      <ul>
        {[...named, { key: "otherwise", name: "Otherwise" }].map(({ key, name }) => {
          const outcome = result.outcomes[key];
          return outcome ? (
            <li key={key}>
              <b>{name}</b>
              <span>{OUTCOMES[outcome]}</span>
            </li>
          ) : null;
        })}
      </ul>
    </Why>
  );
}

export function Rehearsal(props: RehearsalProps) {
  const { id, rules, known, doc, around, faults, usable, changed } = props;
  const total = useQuery(questionnaire(id)).data?.entries ?? 0;
  const [number, setNumber] = useState<number | null>(null);
  const query = useQuery({
    queryKey: ["rehearsal", id, number, usable],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/rehearsals", {
          params: { path: { id } },
          body: { dispatch: usable ?? {}, number },
        }),
      ),
    enabled: total > 0 && usable !== null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
  const result = query.data;
  const refused =
    query.error instanceof ApiError ? (query.error.faults[0]?.message ?? query.error.message) : "";
  const fault = faults[0]?.message ?? refused;
  const step = (to: number | null | undefined, name: string) => (
    <Button isDisabled={to == null} onPress={() => setNumber(to ?? null)}>
      {name}
    </Button>
  );
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
            {step(result.earlier, "Earlier")} {step(result.later, "Later")}
          </span>
        </Head>
      ) : null}
      {fault ? (
        <p role="status">It cannot be rehearsed yet. {fault}</p>
      ) : result ? (
        <>
          <p>{caught(result, props)}</p>
          {result.effects.map((effect, at) => (
            <Shown key={at} effect={effect} known={known} around={around} />
          ))}
          {result.effects.length ? null : <Quiet>Nothing would happen.</Quiet>}
          <Outcomes result={result} rules={rules} />
        </>
      ) : null}
      {changed ? (
        <Differences id={id} usable={usable} around={around} onLook={(to) => setNumber(to)} />
      ) : null}
    </Side>
  );
}
