/** Small pieces of type. */
import styled from "styled-components";

export const Quiet = styled.span`
  color: var(--ink-3);
`;

export const Mono = styled.span`
  font: 12.5px var(--mono);
  color: var(--ink-3);
`;

/** Read out, not shown. */
export const Unseen = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;

export const Keys = styled.kbd`
  font: 11.5px var(--mono);
  border: 1px solid currentColor;
  border-radius: 3px;
  padding: 0 4px;
`;
