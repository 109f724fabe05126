/** Gate: who may answer, when, how often and how many; what was and will be; at the gate. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { edition, gate as gateQuery, questionnaire } from "../data";
import type { Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { Loaded, Waiting } from "../shell/states";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { ChangingPart } from "./ChangingPart";
import { AtTheGate } from "./AtTheGate";
import { saveGate, standing, type Gate, type Standing } from "./data";
import { AudiencePart, PerPersonPart } from "./PeopleParts";
import { RobotsPart, TellPart } from "./RobotsPart";
import { PlacesPart } from "./PlacesPart";
import { State } from "./State";
import { Timeline } from "./Timeline";
import { TimesPart } from "./TimesPart";
import { WaitingPart } from "./WaitingPart";
import { WordsPart } from "./WordsPart";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 370px;
  min-height: calc(100vh - 102px);
  @media (max-width: 980px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Left = styled.div`
  padding: 22px clamp(12px, 2.4vw, 30px) 90px;
  display: grid;
  gap: 24px;
  align-content: start;
`;

const Parts = styled.div`
  columns: 380px 2;
  column-gap: 30px;
  > section {
    break-inside: avoid;
    margin-bottom: 24px;
  }
`;

const Foot = styled.div`
  background: var(--paper);
  border: 1px solid var(--line-2);
  border-radius: 4px;
  padding: 10px 14px;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  justify-content: flex-end;
  span {
    margin-inline-end: auto;
  }
`;

interface InsideProps {
  id: string;
  found: Schema<"GateOut">;
  line: Schema<"SummaryOut">;
  now: Standing;
  doc: Doc | null;
}

/** The gate as it is being changed, over the revision that it was read at. */
function useGate(id: string, found: Schema<"GateOut">) {
  const queries = useQueryClient();
  const [base, setBase] = useState(found);
  const [value, setValue] = useState<Gate>(found.gate);
  const changed = JSON.stringify(value) !== JSON.stringify(base.gate);
  const take = (saved: Schema<"GateOut">) => {
    setBase(saved);
    setValue(saved.gate);
    queries.setQueryData(gateQuery(id).queryKey, saved);
  };
  const changes = [questionnaire(id).queryKey, standing(id).queryKey];
  const saving = useDoing(
    (gate: Gate) => saveGate(id, { revision: base.revision, gate }),
    changes,
    take,
  );
  if (found.revision > base.revision && !changed) take(found);
  return { base, value, setValue, changed, saving, take };
}

function Inside({ id, found, line, now, doc }: InsideProps) {
  const writes = useRight("write");
  const { base, value, setValue, changed, saving, take } = useGate(id, found);
  const onChange = (part: Partial<Gate>) => setValue({ ...value, ...part });
  const faults = (at: string) => faultAt(saving.error, at) ?? faultAt(saving.error, `gate/${at}`);
  const part = { gate: value, writes, onChange };
  const newer = found.revision > base.revision;
  /** Above and below what is changed, so that it is at hand from both. */
  const unsaved =
    changed && writes ? (
      <Foot>
        <span>Changed, and not saved yet.</span>
        <Button
          onPress={() => {
            saving.reset();
            setValue(base.gate);
          }}
        >
          Undo the changes
        </Button>
        <Button weight="main" isDisabled={saving.isPending} onPress={() => saving.mutate(value)}>
          Save the gate
        </Button>
      </Foot>
    ) : null;
  return (
    <Whole>
      <Left>
        <State
          {...{ id, line, writes }}
          gate={base.gate}
          standing={now}
          busy={saving.isPending}
          onState={(state, note) => saving.mutate({ ...base.gate, state, note })}
        />
        {newer ? (
          <Strip>
            <span>Somebody else changed the gate meanwhile.</span>
            <Button onPress={() => take(found)}>Take theirs</Button>
          </Strip>
        ) : null}
        {saving.error ? (
          <Strip tone="wrong">{otherFault(saving.error, []) ?? saving.error.message}</Strip>
        ) : null}
        {unsaved ? <div role="status">{unsaved}</div> : null}
        <Timeline standing={now} />
        <Parts>
          <TimesPart {...part} faultAt={faults} />
          <PlacesPart {...part} doc={doc} standing={now} faultAt={faults} />
          {base.gate.waiting?.on && writes ? <WaitingPart id={id} zone={now.zone} /> : null}
          <AudiencePart {...part} />
          <PerPersonPart {...part} />
          <ChangingPart {...part} />
          <WordsPart
            {...part}
            own={found.words ?? {}}
            languages={doc?.languages ?? [line.language]}
            faultAt={faults}
          />
          <RobotsPart {...part} />
          <TellPart {...part} faultAt={faults} />
        </Parts>
        {unsaved}
      </Left>
      <AtTheGate id={id} gate={base.gate} doc={doc} line={line} zone={now.zone} saved={!changed} />
    </Whole>
  );
}

export function GatePlace() {
  const id = usePlaceId();
  const query = useQuery(gateQuery(id));
  const line = useQuery(questionnaire(id)).data;
  const now = useQuery(standing(id)).data;
  const newest = useQuery({ ...edition(id), enabled: line?.edition != null });
  const ready = line && now && (line.edition === null || newest.data);
  return (
    <Loaded query={query}>
      {(found) =>
        ready ? (
          <Inside key={id} {...{ id, found, line, now }} doc={newest.data?.document ?? null} />
        ) : (
          <Waiting />
        )
      }
    </Loaded>
  );
}
