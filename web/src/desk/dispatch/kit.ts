/** The styled parts that editors of rules share. */
import styled from "styled-components";

/** Words and pickers in one sentence. */
export const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px 7px;
  align-items: center;
  min-width: 0;
`;

export const Stack = styled.div`
  display: grid;
  gap: 8px;
  min-width: 0;
`;

export const Wrong = styled.p`
  color: var(--rust);
  font-weight: 600;
`;

/** What is likely not meant. */
export const Care = styled.p`
  color: var(--ink);
  background: var(--ochre-soft);
  border-inline-start: 3px solid var(--ochre);
  padding: 3px 9px;
  margin-top: 6px;
`;
