/** A letter that was sent off: how far it is, and with whom there is trouble. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";

import type { Schema } from "../../client/client";
import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Strip } from "../../ui/Strip";
import { count } from "../document";
import { useMe } from "../shell/me";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { when, whenAmid } from "../when";
import { holdMailing, lettersOf, mailings } from "./data";

export type Mailing = Schema<"MailingOut">;
type Letter = Schema<"MailingLetterOut">;

const STATES: Record<Mailing["state"], string> = {
  preparing: "The passes are being made.",
  sending: "It is going out.",
  held: "It is held: what waits does not go out.",
  done: "It has gone out.",
  failed: "Nothing came of it: the passes could not be made.",
};

const LETTERS: Record<Letter["state"], string> = {
  waiting: "Waits",
  sent: "Sent",
  left_out: "Left out: opted out, or the pass was revoked",
  failed: "Could not be sent",
};

const TONES: Record<Letter["state"], "open" | "shut" | "plain" | "care"> = {
  waiting: "plain",
  sent: "open",
  left_out: "care",
  failed: "shut",
};

function Letters({ mailing }: { mailing: Mailing }) {
  const id = usePlaceId();
  const query = useQuery(lettersOf(id, mailing.id));
  return (
    <Loaded query={query}>
      {(letters) => (
        <Ledger name={`Letters: ${mailing.name}`}>
          <thead>
            <tr>
              <th scope="col">To</th>
              <th scope="col">What became of it</th>
              <th scope="col">When</th>
            </tr>
          </thead>
          <tbody>
            {letters.map((letter) => (
              <tr key={letter.id}>
                <td>
                  <Link to="/contacts" search={{ contact: letter.contact_id }}>
                    {letter.email}
                  </Link>
                </td>
                <td title={letter.error}>
                  <Tag $as={TONES[letter.state]}>{LETTERS[letter.state]}</Tag> {letter.error}
                </td>
                <td>{when(letter.changed)}</td>
              </tr>
            ))}
          </tbody>
        </Ledger>
      )}
    </Loaded>
  );
}

interface MailingProps {
  mailing: Mailing;
  mayWrite: boolean;
}

export function MailingWay({ mailing, mayWrite }: MailingProps) {
  const id = usePlaceId();
  const reaches = useMe().rights.includes("reach");
  const holding = useDoing(
    (held: boolean) => holdMailing(id, mailing.id, held),
    [mailings(id).queryKey],
  );
  const { state, waiting, sent, left_out: out, failed } = mailing;
  const open = state === "sending" || state === "held";
  return (
    <>
      <h2>{mailing.name}</h2>
      <p role="status">
        A letter, made {whenAmid(mailing.made)}. {STATES[state]} {count(sent, "letter")} sent
        {waiting ? `, ${waiting} waiting` : ""}
        {out ? `, ${out} left out` : ""}
        {failed ? `, ${failed} could not be sent` : ""}.
      </p>
      {mayWrite && reaches && open ? (
        <div>
          <Button onPress={() => holding.mutate(state === "sending")}>
            {state === "sending" ? "Hold it" : "Let it go on"}
          </Button>
        </div>
      ) : null}
      {holding.error ? <Strip tone="wrong">{holding.error.message}</Strip> : null}
      {mailing.batch_id ? (
        <p>
          <Link to="/q/$id/links" params={{ id }} search={{ way: mailing.batch_id }}>
            Its passes, and what came by them
          </Link>
        </p>
      ) : null}
      {reaches ? <Letters key={sent + failed + out} mailing={mailing} /> : null}
    </>
  );
}
