/** Rounds: outreach to a list in steps, each only to those whom the one before has not moved. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { usePlaceId } from "../shell/Place";
import { useMe } from "../shell/me";
import { useRight } from "../shell/rights";
import { Empty, Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { makeRound, ROUNDS, roundQuery, roundsOf } from "./data";
import { RoundView } from "./RoundView";

function NewRound({ onClose }: { onClose: () => void }) {
  const id = usePlaceId();
  const go = useNavigate();
  const [name, setName] = useState("");
  const making = useDoing(
    () => makeRound(id, { name: name.trim() }),
    [ROUNDS(id)],
    (made) => {
      onClose();
      void go({ to: "/q/$id/rounds", params: { id }, search: { round: made.id } });
    },
  );
  return (
    <Sheet title="New round" open onClose={onClose}>
      <Field
        label="Name"
        autoFocus
        value={name}
        maxLength={80}
        help="Such as the season. Only staff read it."
        onChange={setName}
      />
      {making.error ? <Strip tone="wrong">{making.error.message}</Strip> : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button
          weight="main"
          isDisabled={!name.trim() || making.isPending}
          onPress={() => making.mutate()}
        >
          Make it
        </Button>
      </Actions>
    </Sheet>
  );
}

function OneRound({ roundId, onNew }: { roundId: string; onNew: () => void }) {
  const query = useQuery(roundQuery(usePlaceId(), roundId));
  return (
    <Loaded query={query}>{(one) => <RoundView key={one.id} one={one} onNew={onNew} />}</Loaded>
  );
}

export function RoundsPlace() {
  const id = usePlaceId();
  const query = useQuery(roundsOf(id));
  const { round } = useSearch({ from: "/q/$id/rounds" });
  const [making, setMaking] = useState(false);
  const reaches = useMe().rights.includes("reach");
  const writes = useRight("write") && reaches;
  return (
    <>
      <Loaded query={query}>
        {(rounds) => {
          const [newest] = rounds;
          const chosen = rounds.find((one) => one.id === round) ?? newest;
          return chosen ? (
            <OneRound roundId={chosen.id} onNew={() => setMaking(true)} />
          ) : (
            <Empty title="No round yet">
              <p>
                A round asks the people on a list, or some of them drawn by chance: by letters,
                calls and visits, each only to those whom the one before has not moved.
              </p>
              {writes ? (
                <Button weight="main" onPress={() => setMaking(true)}>
                  New round
                </Button>
              ) : (
                <p>Coordinators of the office make them.</p>
              )}
            </Empty>
          );
        }}
      </Loaded>
      {making ? <NewRound onClose={() => setMaking(false)} /> : null}
    </>
  );
}
