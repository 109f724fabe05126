/** Rehearsal: exactly what the rules would do with a past entry, an example, or answers typed on the
 * spot. Nothing is sent. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, ApiError, got, type Fault, type Schema } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Picker } from "../../../ui/Picker";
import { Quiet } from "../../../ui/text";
import { sentence } from "../../condition/words";
import { questionnaire } from "../../data";
import { entryNumber, say, type Doc } from "../../document";
import { sticky } from "../../shell/Section";
import { Differences } from "./Differences";
import type { Around } from "../editors";
import { Shown } from "./effects";
import { Line } from "../kit";
import type { Dispatch, Register } from "../rules";
import { statusWords } from "../setWords";
import { ExampleSaid, TypedAnswers } from "./TypedAnswers";
import type { Example } from "../useRouting";

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

const EXAMPLE = { code: "example", label: "an example of an entry" };

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
  subject: RehearsedWith;
  onSubject: (subject: RehearsedWith) => void;
}

/** What is rehearsed: a past entry, the newest without a number, or answers that nobody sent. */
export type RehearsedWith =
  | { kind: "entry"; number: number | null }
  | { kind: "example"; example: Example }
  | { kind: "typed"; answers: object | null };

const SUBJECTS = [
  { code: "entry", label: "a past entry" },
  { code: "typed", label: "answers typed here" },
];

const linkOf = ({ walk }: Example) =>
  new URLSearchParams(walk.link.map(({ key, value }) => [key, value])).toString();

function typedOf(subject: RehearsedWith): Schema<"TypedIn"> | null {
  if (subject.kind === "entry") return null;
  if (subject.kind === "typed") return { answers: { ...subject.answers }, link: "", facts: {} };
  const { example } = subject;
  const facts = Object.fromEntries(example.facts.map(({ name, value }) => [name, value]));
  return { answers: example.walk.answers, link: linkOf(example), facts };
}

type Result = Schema<"Rehearsal">;

function caught(result: Result, { rules, around }: RehearsalProps, status: string): string {
  if (status) return `What is done each time an entry reaches ${statusWords(status, around)}.`;
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

/** The rules that were tried, by name. */
function tried(rules: Dispatch, status: string): { key: string; name: string }[] {
  const reaching = (rules.on_status ?? []).map((rule, at) => ({
    ...rule,
    name: `Status rule ${at + 1}`,
  }));
  if (status) return reaching.filter((rule) => rule.status === status);
  const named = (rules.rules ?? []).map(({ key }, at) => ({ key, name: `Rule ${at + 1}` }));
  return [...named, { key: "otherwise", name: "Otherwise" }];
}

interface OutcomesProps {
  result: Result;
  rules: Dispatch;
  status: string;
}

function Outcomes({ result, rules, status }: OutcomesProps) {
  return (
    <Why>
      <summary>Why each rule acted or did not</summary>
      <ul>
        {tried(rules, status).map(({ key, name }) => {
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

/** Why it was refused: where an answer will not do, with its question. */
function refusal(error: Error | null, { subjects }: Around): string {
  if (!(error instanceof ApiError)) return error?.message ?? "";
  const [first] = error.faults;
  if (!first) return error.message;
  const asked = subjects.find(({ key }) => key === first.at.split("/")[0]);
  return asked ? `${asked.label}: ${first.message}` : first.message;
}

export function Rehearsal(props: RehearsalProps) {
  const { id, rules, known, doc, around, faults, usable, changed, subject, onSubject } = props;
  const total = useQuery(questionnaire(id)).data?.entries ?? 0;
  const number = subject.kind === "entry" ? subject.number : null;
  const typed = typedOf(subject);
  const setNumber = (to: number | null) => onSubject({ kind: "entry", number: to });
  const waits = subject.kind === "typed" && !subject.answers;
  const [status, setStatus] = useState("");
  const reached = [...new Set((rules.on_status ?? []).map((rule) => rule.status))].filter(Boolean);
  const query = useQuery({
    queryKey: ["rehearsal", id, number, typed, usable, status],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/rehearsals", {
          params: { path: { id } },
          body: { dispatch: usable ?? {}, number, typed, status },
        }),
      ),
    enabled: usable !== null && !waits && (typed !== null || total > 0),
    placeholderData: subject.kind === "entry" ? keepPreviousData : undefined,
    retry: false,
    gcTime: 10_000,
  });
  const result = waits ? undefined : query.data;
  const fault = faults[0]?.message ?? refusal(query.error, around);
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
      <Line>
        with
        <Picker
          inline
          label="What is rehearsed"
          options={subject.kind === "example" ? [...SUBJECTS, EXAMPLE] : SUBJECTS}
          value={subject.kind}
          onChange={(kind) =>
            onSubject(kind === "typed" ? { kind, answers: null } : { kind: "entry", number: null })
          }
        />
        {reached.length ? (
          <Picker
            inline
            label="What happens"
            options={[
              { code: "", label: "as it arrives" },
              ...reached.map((code) => ({
                code,
                label: `as it reaches ${statusWords(code, around) ?? code}`,
              })),
            ]}
            value={reached.includes(status) ? status : ""}
            onChange={setStatus}
          />
        ) : null}
      </Line>
      {subject.kind === "typed" ? (
        <TypedAnswers id={id} onTyped={(answers) => onSubject({ kind: "typed", answers })} />
      ) : null}
      {subject.kind === "example" ? <ExampleSaid example={subject.example} /> : null}
      {total === 0 && subject.kind === "entry" ? (
        <p>{say(doc, doc.title)} has no entry yet.</p>
      ) : null}
      {result && result.number !== null ? (
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
          <p>{caught(result, props, status)}</p>
          {result.effects.map((effect, at) => (
            <Shown key={at} effect={effect} known={known} around={around} />
          ))}
          {result.effects.length ? null : <Quiet>Nothing would happen.</Quiet>}
          <Outcomes result={result} rules={rules} status={status} />
        </>
      ) : null}
      {changed ? (
        <Differences id={id} usable={usable} around={around} onLook={(to) => setNumber(to)} />
      ) : null}
    </Side>
  );
}
