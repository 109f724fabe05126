/** What came of a call or a visit, in one tap. */
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { usePlaceId } from "../shell/Place";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { asField, when } from "../when";
import { tellOutcome, type Outcome } from "./data";
import { OUTCOMES } from "./words";

export type Worklist = Schema<"WorklistOut">;
type Up = NonNullable<Worklist["up"]>;

const Taps = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 8px;
  button {
    min-height: 48px;
    font-size: 15.5px;
  }
`;

/** The outcomes that need nothing more to be said. */
const TAPS: readonly Outcome[] = [
  "answered",
  "not_reached",
  "refused",
  "wrong_number",
  "moved",
  "not_eligible",
  "language",
];

/** Half an hour from now. */
const soon = () => asField(new Date(Date.now() + 30 * 60_000));

export interface OutcomesProps {
  up: Up;
  roundId: string;
  onTold: (words: string) => void;
}

export function Outcomes({ up, roundId, onTold }: OutcomesProps) {
  const id = usePlaceId();
  const [note, setNote] = useState("");
  const [again, setAgain] = useState(soon);
  const { contact_id, name } = up.person;
  const telling = useDoing(
    (outcome: Outcome) =>
      tellOutcome(id, roundId, {
        contact_id,
        outcome,
        note,
        again: outcome === "again" ? new Date(again).toISOString() : null,
      }),
    [],
    (told) =>
      onTold(told.again ? `${name}: noted, up again ${when(told.again)}.` : `${name}: noted.`),
  );
  const failed = otherFault(telling.error, ["again", "note"]);
  return (
    <>
      <h3>What came of it?</h3>
      <Taps role="group" aria-label="Outcome">
        {TAPS.map((outcome) => (
          <Button
            key={outcome}
            isDisabled={telling.isPending}
            onPress={() => telling.mutate(outcome)}
          >
            {OUTCOMES[outcome]}
          </Button>
        ))}
      </Taps>
      <Field
        label="Or try again at"
        type="datetime-local"
        narrow
        value={again}
        error={faultAt(telling.error, "again")}
        onChange={setAgain}
      />
      <div>
        <Button isDisabled={telling.isPending} onPress={() => telling.mutate("again")}>
          Try again then
        </Button>
      </div>
      <Field
        label="Note for whoever comes next"
        value={note}
        maxLength={1000}
        error={faultAt(telling.error, "note")}
        onChange={setNote}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
    </>
  );
}
