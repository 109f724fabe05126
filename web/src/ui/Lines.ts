/** Lines of what there is, as sentences, each with what can be done with it at its end. */
import styled from "styled-components";

export const Lines = styled.ul`
  border-top: 1px solid var(--line);
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 8px;
    align-items: center;
    padding: 7px 2px;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  li > :last-child:is(button) {
    margin-inline-start: auto;
  }
`;
