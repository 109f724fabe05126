/** Who may read the restricted answers of a questionnaire, until when, and whether they say why. */
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Lines } from "../../ui/Lines";
import { Picker } from "../../ui/Picker";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { ownClearance, parts } from "../data";
import { useDoing } from "../useDoing";
import { endOf, onLastDay } from "../when";

type Shared = Schema<"SharedOut">;
type Clearance = Schema<"ClearanceOut">;

const Day = styled.input`
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
  min-height: 28px;
  padding: 2px 6px;
`;

const REASONS = [
  { code: "no", label: "without saying why" },
  { code: "yes", label: "saying why each time" },
];

/** People who can read the entries, in person, through a team, or in the whole office. */
function readers({ people, parts: given }: Shared) {
  const named = new Set(given.map((part) => part.account_id));
  const inTeams = new Set(given.map((part) => part.team_id));
  return people.filter(
    ({ id, role, teams, state }) =>
      state !== "ended" && (role || named.has(id) || teams.some((team) => inTeams.has(team))),
  );
}

function over({ until }: Clearance): boolean {
  return until !== null && new Date(until) <= new Date();
}

export function Clearances({ id, shared }: { id: string; shared: Shared }) {
  const [whom, setWhom] = useState<string | null>(null);
  const [day, setDay] = useState("");
  const [reason, setReason] = useState("no");
  const changes = [parts("questionnaires", id).queryKey, ownClearance(id).queryKey, ["entry", id]];
  const at = (person: string) => ({ params: { path: { id, person } } });
  const giving = useDoing(
    ({ person, body }: { person: string; body: Schema<"ClearanceIn"> }) =>
      got(client.PUT("/api/questionnaires/{id}/clearances/{person}", { ...at(person), body })),
    changes,
    () => setWhom(null),
  );
  const ending = useDoing(
    (person: string) =>
      got(client.DELETE("/api/questionnaires/{id}/clearances/{person}", at(person))),
    changes,
  );
  const names = new Map(shared.people.map((person) => [person.id, person.name]));
  const cleared = new Set(shared.clearances.map(({ account_id }) => account_id));
  const error = giving.error ?? ending.error;
  return (
    <section aria-label="Clearance">
      <h2>Clearance</h2>
      <Quiet>
        Restricted answers are open to people with clearance only. It ends at once, on open pages
        too.
      </Quiet>
      {error ? <Strip tone="wrong">{error.message}</Strip> : null}
      <Lines>
        {shared.clearances.map((one) => (
          <li key={one.account_id}>
            <b>{names.get(one.account_id) ?? "Somebody who left"}</b>
            {over(one) ? "could read" : "reads"} what is restricted
            <Choose
              name={`Reasons of ${names.get(one.account_id) ?? ""}`}
              value={one.asks_reason ? "yes" : "no"}
              options={REASONS}
              onChange={(code) =>
                giving.mutate({
                  person: one.account_id,
                  body: { until: one.until, asks_reason: code === "yes" },
                })
              }
            />
            <span>
              {one.until ? `until ${onLastDay(one.until)}` : "without an end"}
              <Quiet>, given by {names.get(one.given_by) ?? "somebody who left"}</Quiet>
            </span>
            <Button
              weight="word"
              aria-label={`End the clearance of ${names.get(one.account_id) ?? ""}`}
              onPress={() => ending.mutate(one.account_id)}
            >
              End
            </Button>
          </li>
        ))}
        <li>
          <Picker
            label="Whom to clear"
            inline
            placeholder="somebody who reads the entries"
            options={readers(shared)
              .filter((person) => !cleared.has(person.id))
              .map((person) => ({ code: person.id, label: person.name }))}
            value={whom}
            onChange={setWhom}
          />
          reads what is restricted
          <Choose name="With a reason" value={reason} options={REASONS} onChange={setReason} />
          <label>
            until{" "}
            <Day
              type="date"
              aria-label="Last day of the clearance, empty for no end"
              value={day}
              onChange={(event) => setDay(event.target.value)}
            />
          </label>
          <Button
            isDisabled={!whom || giving.isPending}
            onPress={() => {
              const body = { until: endOf(day), asks_reason: reason === "yes" };
              if (whom) giving.mutate({ person: whom, body });
            }}
          >
            Give clearance
          </Button>
        </li>
      </Lines>
    </section>
  );
}
