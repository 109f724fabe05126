/** The name of a round, who was drawn for it, and stopping everything. */
import type { ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { onDay } from "../when";
import { useContactFields } from "./contactSubjects";
import { ROUNDS, stopRound, type RoundOut } from "./data";
import type { Editing } from "./useRound";

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  h2 {
    font-size: 23px;
    overflow-wrap: anywhere;
  }
  > span {
    flex: 1 1 260px;
  }
`;

function drawnOf(one: RoundOut, field: string): string {
  if (!one.drawn) return "Nobody was drawn yet";
  const drawn = one.portions.reduce((sum, { people }) => sum + people, 0);
  const whole = drawn === one.drawn_from;
  const how = whole ? "" : ` drawn by chance from ${one.drawn_from}`;
  const by = field ? `, by ${field.toLowerCase()}` : "";
  return `${drawn} people${how}${by}, on ${onDay(one.drawn)}`;
}

interface HeadProps {
  one: RoundOut;
  editing: Editing;
  writes: boolean;
  switcher: ReactNode;
  onNew: () => void;
}

export function RoundHead({ one, editing, writes, switcher, onNew }: HeadProps) {
  const id = usePlaceId();
  const stopping = useDoing((stopped: boolean) => stopRound(id, one.id, stopped), [ROUNDS(id)]);
  const by = one.round.draw?.by;
  const field = useContactFields().find(({ key }) => key === by)?.label ?? "";
  return (
    <>
      <Head>
        <h2>{editing.round.name}</h2>
        {switcher}
        <Quiet title={one.round.draw?.seed ? `Seed: ${one.round.draw.seed}` : undefined}>
          {drawnOf(one, field)}
        </Quiet>
        {writes ? <Button onPress={onNew}>New round</Button> : null}
        {writes && one.drawn ? (
          <Button onPress={() => stopping.mutate(one.state === "running")}>
            {one.state === "running" ? "Stop everything" : "Let it go on"}
          </Button>
        ) : null}
      </Head>
      {stopping.error ? <Strip tone="wrong">{stopping.error.message}</Strip> : null}
    </>
  );
}
