/** The worklist of calls and visits: one contact after the other, the outcome in one tap. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { usePlaceId } from "../shell/Place";
import { Empty, Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { when } from "../when";
import { enterFor, putBack, roundsOf, roundQuery, takeNext, worklistQuery } from "./data";
import { Outcomes, type OutcomesProps, type Worklist } from "./Outcomes";
import { History } from "./PersonSheet";

const Whole = styled.div`
  padding: 18px clamp(12px, 3vw, 30px) 60px;
  max-width: 640px;
  display: grid;
  gap: 14px;
  align-content: start;
  margin-inline: auto;
  overflow-wrap: anywhere;
  h2 {
    font-size: 25px;
  }
  h3 {
    font-size: 16px;
  }
`;

const Phone = styled.a`
  display: block;
  font-size: 22px;
  padding: 12px 16px;
  border: 1.5px solid var(--accent);
  border-radius: 4px;
  background: var(--accent-soft);
  text-align: center;
  text-decoration: none;
`;

const Script = styled.div`
  border-inline-start: 3px solid var(--accent-mid);
  padding: 4px 14px;
  font-size: 17px;
  white-space: pre-wrap;
`;

const Facts = styled.dl`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 2px 14px;
  dt {
    color: var(--ink-2);
  }
`;

function Contact({ up, roundId, onTold }: OutcomesProps) {
  const id = usePlaceId();
  const round = useQuery(roundQuery(id, roundId)).data ?? null;
  const entering = useDoing(
    () => enterFor(id, roundId, up.person.contact_id),
    [],
    ({ path }) => void window.open(path, "_blank"),
  );
  const phone = up.facts.find(({ field }) => field === "phone")?.text;
  const facts = up.facts.filter(
    ({ field }) => field !== "name" && (field !== "phone" || up.way !== "call"),
  );
  return (
    <>
      <div>
        <Quiet>{up.step_name}</Quiet>
        <h2>{up.person.name || "Nobody by name"}</h2>
      </div>
      {phone && up.way === "call" ? (
        <Phone href={`tel:${phone.replace(/[^\d+]/g, "")}`}>{phone}</Phone>
      ) : null}
      {up.script ? <Script>{up.script}</Script> : null}
      <div>
        <Button weight="main" isDisabled={entering.isPending} onPress={() => entering.mutate()}>
          Open the questionnaire for them
        </Button>
      </div>
      {entering.error ? <Strip tone="wrong">{entering.error.message}</Strip> : null}
      <Outcomes up={up} roundId={roundId} onTold={onTold} />
      <h3>So far</h3>
      <History one={round} person={up.person} />
      <Facts>
        {facts.map(({ field, label, text }) => (
          <div key={field} style={{ display: "contents" }}>
            <dt>{label}</dt>
            <dd>{text}</dd>
          </div>
        ))}
        <dt>Time zone</dt>
        <dd>{up.zone}</dd>
      </Facts>
    </>
  );
}

function Nobody({ found, onNext, busy }: { found: Worklist; onNext: () => void; busy: boolean }) {
  if (busy) return <Quiet role="status">Looking for the next contact…</Quiet>;
  return (
    <>
      <h2>{found.waiting ? `${count(found.waiting, "contact")} to try` : "Nobody to try now"}</h2>
      {found.waiting ? (
        <Button weight="main" onPress={onNext}>
          Take the next
        </Button>
      ) : (
        <p>
          {found.later ? `The next one is up ${when(found.later)}.` : "Everybody has been tried."}
        </p>
      )}
    </>
  );
}

function List({ roundId }: { roundId: string }) {
  const id = usePlaceId();
  const queries = useQueryClient();
  const query = useQuery(worklistQuery(id, roundId));
  const [told, setTold] = useState("");
  const keep = (found: Worklist) =>
    queries.setQueryData(worklistQuery(id, roundId).queryKey, found);
  const next = useDoing(() => takeNext(id, roundId), [], keep);
  // Whom an outcome was told of is not up any more, even while the next one is looked for.
  const goOn = (words: string) => {
    queries.setQueryData(worklistQuery(id, roundId).queryKey, (was) => was && { ...was, up: null });
    next.mutate(undefined, { onSettled: () => setTold(words) });
  };
  const back = useDoing(() => putBack(id, roundId), [worklistQuery(id, roundId).queryKey]);
  return (
    <Whole>
      {told ? <Strip tone="calm">{told}</Strip> : null}
      {next.error ? <Strip tone="wrong">{next.error.message}</Strip> : null}
      <Loaded query={query}>
        {(found) =>
          found.up ? (
            <>
              <Contact
                key={found.up.person.contact_id}
                up={found.up}
                roundId={roundId}
                onTold={goOn}
              />
              <div>
                <Button weight="word" isDisabled={back.isPending} onPress={() => back.mutate()}>
                  Give this contact back
                </Button>
              </div>
            </>
          ) : (
            <Nobody found={found} busy={next.isPending} onNext={() => next.mutate()} />
          )
        }
      </Loaded>
      <Link to="/q/$id/rounds" params={{ id }} search={{ round: roundId }}>
        The round
      </Link>
    </Whole>
  );
}

export function WorklistPlace() {
  const id = usePlaceId();
  const { round } = useSearch({ from: "/q/$id/rounds/worklist" });
  const query = useQuery(roundsOf(id));
  return (
    <Loaded query={query}>
      {(rounds) => {
        const chosen = rounds.find((one) => one.id === round) ?? rounds[0];
        return chosen ? (
          <List roundId={chosen.id} />
        ) : (
          <Empty title="No round yet">
            <p>Calls and visits are steps of rounds.</p>
          </Empty>
        );
      }}
    </Loaded>
  );
}
