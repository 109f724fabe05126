/** A colour, picked or written. */
import { useId, useState } from "react";
import styled from "styled-components";

import { Field } from "./Field";

const Colour = styled.div`
  display: flex;
  gap: 10px;
  align-items: end;
  > label {
    display: grid;
    font-weight: 600;
  }
  input[type="color"] {
    width: 56px;
    height: 34px;
    padding: 2px;
    border: 1px solid var(--edge);
    border-radius: 4px;
    background: var(--paper);
  }
`;

interface ColourProps {
  /** As #rrggbb. */
  value: string;
  onChange: (colour: string) => void;
}

export function ColourField({ value, onChange }: ColourProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const id = useId();
  const write = (words: string) => {
    const colour = words.trim().toLowerCase();
    const whole = /^#?[0-9a-f]{6}$/.test(colour);
    setTyped(whole ? null : words);
    if (whole) onChange(colour.startsWith("#") ? colour : `#${colour}`);
  };
  return (
    <Colour>
      <label htmlFor={id}>
        Pick
        <input id={id} type="color" value={value} onChange={(event) => write(event.target.value)} />
      </label>
      <Field
        label="Or write it"
        value={typed ?? value}
        error={typed === null ? undefined : "Six digits of 0 to 9 and a to f."}
        onChange={write}
      />
    </Colour>
  );
}
