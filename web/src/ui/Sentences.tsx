/** Sentences below each other, which scroll inside themselves where there are many. */
import styled from "styled-components";

export const Sentences = styled.ul.attrs({ tabIndex: 0 })`
  max-height: 44vh;
  overflow: auto;
  position: relative;
  border-top: 1px solid var(--line);
  li {
    padding: 5px 2px;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
`;
