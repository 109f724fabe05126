/** What is known already of a question, to be read and not to be changed. */
import styled from "styled-components";

import { fieldOf, type QuestionProps } from "./answer";
import { useSay } from "./words";

const Name = styled.div`
  font-weight: 600;
`;

const Value = styled.p`
  white-space: pre-line;
  overflow-wrap: anywhere;
  border-inline-start: 3px solid var(--line-2);
  padding: 4px 12px;
  margin-block: 6px;
`;

const Why = styled.p`
  color: var(--ink-2);
`;

export function Locked({ item, at }: QuestionProps) {
  const say = useSay();
  const id = fieldOf(at);
  return (
    <div role="group" aria-labelledby={`${id}-name`} id={id} tabIndex={-1}>
      <Name id={`${id}-name`} data-name>
        {item.text}
      </Name>
      <Value>{item.value}</Value>
      <Why>{say("locked")}</Why>
    </div>
  );
}
