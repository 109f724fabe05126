/** The empty line below a list of options or rows: Enter adds it, pasted lines are added at once. */
import { useState } from "react";
import styled from "styled-components";

import { Quiet } from "../../ui/text";

const Line = styled.input`
  width: 100%;
  border: 0;
  border-bottom: 1px dotted transparent;
  background: none;
  padding: 4px 0;
  min-height: 30px;
  &::placeholder {
    color: var(--ink-3);
    opacity: 1;
  }
`;

interface NewLinesProps {
  id: string;
  /** What one of them is called, such as "option". */
  noun: string;
  /** Adds what was typed or pasted, and says what was done with it. */
  onAdd: (text: string) => string;
}

export function NewLines({ id, noun, onAdd }: NewLinesProps) {
  const [typed, setTyped] = useState("");
  const [remark, setRemark] = useState("");
  const add = (text: string) => {
    setRemark(onAdd(text));
    setTyped("");
  };
  return (
    <>
      <Line
        id={id}
        aria-label={`New ${noun}`}
        placeholder={`Add ${noun === "option" ? "an" : "a"} ${noun}, or paste from a spreadsheet, with codes beside if you have them`}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => (typed.trim() ? add(typed) : undefined)}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || !typed.trim()) return;
          event.preventDefault();
          add(typed);
        }}
        onPaste={(event) => {
          const text = event.clipboardData.getData("text");
          if (!/[\n\t]/.test(text.trim())) return;
          event.preventDefault();
          add(text);
        }}
      />
      <Quiet role="status">{remark}</Quiet>
    </>
  );
}
