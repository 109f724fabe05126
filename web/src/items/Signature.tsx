/** A signature: drawn with a finger, pen or mouse, or the name typed in its place. */
import { useRef, useState, type PointerEvent } from "react";
import styled from "styled-components";

import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Group } from "../ui/Group";
import { map, words, type QuestionProps } from "./answer";
import { useShared } from "./shared";
import { useSay } from "./words";

const WIDTH = 600;
const HEIGHT = 200;
/** The longest path that the server takes. */
const LONGEST = 60_000;

const Sheet = styled.svg`
  display: block;
  width: 100%;
  aspect-ratio: ${WIDTH} / ${HEIGHT};
  border: 1.5px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  margin-top: 8px;
  touch-action: none;
  cursor: crosshair;
  path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 3;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  text {
    fill: var(--ink-3);
    font-size: 20px;
  }
`;

function pointOf(event: PointerEvent<SVGSVGElement>): string {
  const box = event.currentTarget.getBoundingClientRect();
  const clamp = (value: number, most: number) => Math.round(Math.min(Math.max(value, 0), most));
  const x = clamp(((event.clientX - box.left) / box.width) * WIDTH, WIDTH);
  const y = clamp(((event.clientY - box.top) / box.height) * HEIGHT, HEIGHT);
  return `${x} ${y}`;
}

export function Signature(props: QuestionProps) {
  const { at, answer, onAnswer } = props;
  const say = useSay();
  const { id, label, help, error, isRequired } = useShared(props);
  const parts = map(answer);
  const drawn = words(parts["drawn"] ?? null);
  const line = useRef("");
  const [drawing, setDrawing] = useState("");
  const draw = (next: string) => {
    line.current = next;
    setDrawing(next);
  };
  const end = () => {
    if (line.current.includes("L") && drawn.length + line.current.length <= LONGEST) {
      onAnswer({ drawn: drawn + line.current }, at);
    }
    draw("");
  };
  return (
    <Group id={id} label={label} help={help} error={error}>
      <Sheet
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={say("sign_here")}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          draw(`M${pointOf(event)}`);
        }}
        onPointerMove={(event) => {
          if (line.current) draw(`${line.current}L${pointOf(event)}`);
        }}
        onPointerUp={end}
        onPointerCancel={end}
      >
        {drawn || drawing ? (
          <path d={drawn + drawing} />
        ) : (
          <text x={WIDTH / 2} y={HEIGHT / 2} textAnchor="middle">
            {say("sign_here")}
          </text>
        )}
      </Sheet>
      {drawn ? (
        <Button weight="word" onPress={() => onAnswer(null, at)}>
          {say("sign_clear")}
        </Button>
      ) : null}
      <Field
        label={say("sign_typed")}
        autoComplete="name"
        isRequired={isRequired && !drawn}
        value={words(parts["typed"] ?? null)}
        onChange={(typed) => onAnswer(typed ? { typed } : null, at)}
      />
    </Group>
  );
}
