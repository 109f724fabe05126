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
