/** What a sentence is made of whose words are changed in place. */
import styled from "styled-components";

export const Sentence = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px 6px;
  align-items: center;
`;

/** What is compared with, as it is typed. */
export const Operand = styled.input`
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  padding: 2px 7px;
  min-height: 28px;
  width: 130px;
`;
