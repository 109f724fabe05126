/** A line below a picture. */
import styled from "styled-components";

export const Noted = styled.p`
  margin-block-start: 6px;
  color: var(--ink-2);
  font-size: 13.5px;
`;
