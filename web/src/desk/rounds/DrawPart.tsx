/** How many are drawn, from which strata, and in which portions they are released. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { InSentence } from "../../ui/InSentence";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { Sentence } from "../gate/Part";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { useContactFields } from "./contactSubjects";
import { seeSample, type Round } from "./data";
import type { Editing } from "./useRound";
import { stratumName } from "./words";

export const Part = styled.section`
  display: grid;
  gap: 10px;
  border-block-start: 1px solid var(--line);
  padding-block: 14px;
  justify-items: start;
  min-width: 0;
  h3 {
    font-size: 16px;
  }
  > * {
    min-width: 0;
    max-width: 100%;
  }
`;

type Draw = NonNullable<Round["draw"]>;

const HOW = [
  { code: "every", label: "everybody" },
  { code: "size", label: "so many, by chance" },
  { code: "strata", label: "so many of each value of a field" },
];

const howOf = (draw: Draw): string =>
  Object.keys(draw.sizes ?? {}).length ? "strata" : draw.size ? "size" : "every";

export function DrawPart({ editing }: { editing: Editing }) {
  const fields = useContactFields();
  const draw = editing.round.draw ?? {};
  const [how, setHow] = useState(howOf(draw));
  const set = (change: Partial<Draw>) => editing.set({ draw: { ...draw, ...change } });
  const choices = [
    { code: "", label: "no field" },
    ...fields.map(({ key, label }) => ({ code: key, label })),
  ];
  return (
    <Part>
      <h3>The draw</h3>
      <Sentence>
        Ask
        <Choose
          name="How many are asked"
          value={how}
          options={HOW}
          onChange={(next) => {
            setHow(next);
            set({ size: next === "size" ? (draw.size ?? 100) : null, sizes: {} });
          }}
        />
        {how === "size" ? (
          <InSentence
            name="How many people"
            type="number"
            min={1}
            value={String(draw.size ?? "")}
            onChange={(text) => set({ size: Math.max(Number(text) || 1, 1) })}
          />
        ) : null}
      </Sentence>
      <Sentence>
        Strata: the values of
        <Choose
          name="Field of the strata"
          value={draw.by ?? ""}
          options={choices}
          onChange={(by) => set({ by, sizes: {} })}
        />
        {how === "size" && draw.by ? "each by its share" : null}
      </Sentence>
      {how === "strata" && draw.by ? (
        <Sizes editing={editing} sizes={draw.sizes ?? {}} onSizes={(sizes) => set({ sizes })} />
      ) : null}
      <Portions editing={editing} />
    </Part>
  );
}

interface SizesProps {
  editing: Editing;
  sizes: Record<string, number>;
  onSizes: (sizes: Record<string, number>) => void;
}

function Sizes({ editing, sizes, onSizes }: SizesProps) {
  const id = usePlaceId();
  const seeing = useDoing(() =>
    seeSample(id, { ...editing.round, draw: { ...editing.round.draw, size: null, sizes: {} } }),
  );
  const of = seeing.data?.of;
  const names = of ? Object.keys(of) : Object.keys(sizes);
  return (
    <>
      {names.map((name) => (
        <Sentence key={name}>
          {stratumName(name)}
          <InSentence
            name={`How many of ${stratumName(name)}`}
            type="number"
            min={0}
            value={String(sizes[name] ?? 0)}
            onChange={(text) => onSizes({ ...sizes, [name]: Math.max(Number(text) || 0, 0) })}
          />
          {of ? <Quiet>of {of[name]}</Quiet> : null}
        </Sentence>
      ))}
      {seeing.error ? <Strip tone="wrong">{seeing.error.message}</Strip> : null}
      <Button weight="word" onPress={() => seeing.mutate()}>
        Find the values
      </Button>
    </>
  );
}

function Portions({ editing }: { editing: Editing }) {
  const portions = editing.round.portions ?? [];
  const set = (next: number[]) => editing.set({ portions: next });
  return (
    <Sentence>
      {portions.length ? "Released in portions of" : "Released all at once."}
      {portions.map((size, at) => (
        <InSentence
          key={at}
          name={`People in portion ${at + 1}`}
          type="number"
          min={1}
          value={String(size)}
          onChange={(text) =>
            set(portions.map((one, n) => (n === at ? Math.max(Number(text) || 1, 1) : one)))
          }
        />
      ))}
      {portions.length ? "and the rest." : null}
      <Button weight="word" onPress={() => set([...portions, 50])}>
        {portions.length ? "One more portion" : "Release in portions"}
      </Button>
      {portions.length ? (
        <Button weight="word" onPress={() => set(portions.slice(0, -1))}>
          One fewer
        </Button>
      ) : null}
    </Sentence>
  );
}
