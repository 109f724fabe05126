/** One round: whom it asks, its steps on a line of time, what became of everybody, and who. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { useMe } from "../shell/me";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { useDoing } from "../useDoing";
import { Bars } from "./Bars";
import { useContactFields } from "./contactSubjects";
import { progressQuery, removeRound, ROUNDS, roundsOf, type RoundOut, type Which } from "./data";
import { Names } from "./Names";
import { Rates } from "./Rates";
import { Release } from "./Release";
import { RoundHead } from "./RoundHead";
import { RoundSettings } from "./RoundSettings";
import { StepPane } from "./StepPane";
import { Timeline } from "./Timeline";
import { useRound, type Editing } from "./useRound";
import { Whom } from "./Whom";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 410px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Main = styled.div`
  padding: 20px clamp(12px, 2.2vw, 28px) 40px;
  min-width: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  align-content: start;
`;

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 18px 22px 40px;
  min-width: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 22px;
  align-content: start;
`;

const Foot = styled.div`
  position: sticky;
  bottom: 0;
  background: var(--chalk);
  border-top: 1px solid var(--line);
  padding: 10px 0;
  display: grid;
  gap: 8px;
`;

/** A key that no step has had. */
function spareKey({ kept, round }: Editing): string {
  const known = [...(kept.round.steps ?? []), ...(round.steps ?? [])].map(({ key }) => key);
  const numbers = known.map((key) => Number(/^step(\d+)$/.exec(key)?.[1] ?? 0));
  return `step${Math.max(0, ...numbers) + 1}`;
}

function Switcher({ one }: { one: RoundOut }) {
  const id = usePlaceId();
  const rounds = useQuery(roundsOf(id)).data ?? [];
  const go = useNavigate();
  if (rounds.length < 2) return null;
  return (
    <Choose
      name="Round"
      value={one.id}
      options={rounds.map((each) => ({ code: each.id, label: each.name }))}
      onChange={(round) => void go({ to: "/q/$id/rounds", params: { id }, search: { round } })}
    />
  );
}

function Saving({ editing }: { editing: Editing }) {
  const { saving, undo } = editing;
  return (
    <Foot>
      {saving.error ? <Strip tone="wrong">{saving.error.message}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" isDisabled={saving.isPending} onPress={() => saving.mutate()}>
          Apply the changes
        </Button>
        <Button onPress={undo}>Discard them</Button>
      </Actions>
    </Foot>
  );
}

function Removing({ one }: { one: RoundOut }) {
  const id = usePlaceId();
  const go = useNavigate();
  const removing = useDoing(
    () => removeRound(id, one.id),
    [ROUNDS(id)],
    () => void go({ to: "/q/$id/rounds", params: { id }, search: {} }),
  );
  return (
    <>
      {removing.error ? <Strip tone="wrong">{removing.error.message}</Strip> : null}
      <Button weight="word" onPress={() => removing.mutate()}>
        Delete this round
      </Button>
    </>
  );
}

export function RoundView({ one, onNew }: { one: RoundOut; onNew: () => void }) {
  const id = usePlaceId();
  const reaches = useMe().rights.includes("reach");
  const writes = useRight("write") && reaches;
  const editing = useRound(one);
  const { round } = editing;
  const steps = round.steps ?? [];
  const latest = one.gone.at(-1)?.step ?? steps[0]?.key ?? "";
  const [chosen, setChosen] = useState(latest);
  const [which, setWhich] = useState<Which>({ stands: "open" });
  const progress = useQuery({ ...progressQuery(id, one.id), enabled: one.drawn !== null }).data;
  const fields = useContactFields();
  const step = steps.find(({ key }) => key === chosen);
  const released = one.portions.some((portion) => portion.released);
  const add = () => {
    const key = spareKey(editing);
    editing.set({ steps: [...steps, { key, name: `Step ${steps.length + 1}`, way: "mail" }] });
    setChosen(key);
  };
  return (
    <Whole>
      <Main>
        <RoundHead
          one={one}
          editing={editing}
          writes={writes}
          switcher={<Switcher one={one} />}
          onNew={onNew}
        />
        {one.state === "stopped" ? (
          <Strip tone="wrong">Everything is stopped: nothing goes out, nobody is rung.</Strip>
        ) : null}
        <Timeline
          one={one}
          steps={steps}
          progress={progress}
          chosen={chosen}
          onChoose={setChosen}
          onAdd={writes ? add : undefined}
        />
        {one.drawn === null ? (
          writes ? (
            <Whom editing={editing} />
          ) : (
            <p>Nobody was drawn yet.</p>
          )
        ) : null}
        {one.drawn !== null && writes ? <Release one={one} /> : null}
        {progress && released ? (
          <>
            <Bars steps={steps} progress={progress} onWhich={setWhich} />
            <p style={{ marginBlockStart: 12 }}>
              <Quiet>
                {progress.released} asked, {progress.reached} of them known to be reached.{" "}
                {progress.lately} answered within seven days.
              </Quiet>
            </p>
          </>
        ) : null}
        {one.drawn !== null && released && writes ? (
          <Names
            one={one}
            fieldLabel={fields.find(({ key }) => key === round.draw?.by)?.label ?? "Stratum"}
            which={which}
            onWhich={setWhich}
          />
        ) : null}
        {writes ? <RoundSettings editing={editing} /> : null}
        {writes && one.drawn === null ? <Removing one={one} /> : null}
        {editing.changed ? <Saving editing={editing} /> : null}
      </Main>
      <Side aria-label="The step">
        {step ? (
          <StepPane
            key={step.key}
            editing={editing}
            step={step}
            progress={progress}
            writes={writes}
            onWhich={setWhich}
            onRemove={() => {
              editing.set({ steps: steps.filter(({ key }) => key !== step.key) });
              setChosen(steps[0]?.key ?? "");
            }}
          />
        ) : (
          <Quiet>Choose a step to see when it goes, to whom, and what it says.</Quiet>
        )}
        {progress && released ? <Rates progress={progress} /> : null}
        {one.gone.some(({ step: key }) =>
          steps.some((each) => each.key === key && each.way !== "mail"),
        ) ? (
          <Link to="/q/$id/rounds/worklist" params={{ id }} search={{ round: one.id }}>
            The worklist of calls and visits
          </Link>
        ) : null}
      </Side>
    </Whole>
  );
}
