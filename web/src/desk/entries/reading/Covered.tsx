/** Stands where a restricted answer would: no answer is behind it. */
import styled from "styled-components";

export const Covered = styled.span`
  display: inline-block;
  width: 74px;
  height: 12px;
  border-radius: 2px;
  background: repeating-linear-gradient(90deg, var(--line-2) 0 5px, var(--line) 5px 8px);
`;
