/** A list of sentences below what they are about. */
import styled from "styled-components";

export const SmallList = styled.ul`
  font-size: 13.5px;
  color: var(--ink-2);
  padding-block: 5px;
  b {
    color: var(--accent);
  }
`;
