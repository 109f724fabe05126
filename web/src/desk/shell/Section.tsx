/** A part of the bench, under its heading. */
import type { ReactNode } from "react";
import styled, { css } from "styled-components";

import { HEAD } from "./head";

const Whole = styled.section`
  padding: 13px 18px;
  border-bottom: 1px solid var(--line);
  display: grid;
  gap: 8px;
  justify-items: stretch;
  h2 {
    font-size: 14.5px;
  }
  > button {
    justify-self: start;
  }
  > p {
    color: var(--ink-2);
  }
`;

/** A column that stays while the script between them is scrolled. */
export const sticky = css`
  position: sticky;
  top: ${HEAD};
  align-self: start;
  height: calc(100vh - ${HEAD});
  overflow: auto;
  @media (max-width: 1080px) {
    position: static;
    height: auto;
  }
`;

/** The column at the right of the script. */
export const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  min-width: 0;
  ${sticky}
`;

/** Two short fields side by side. */
export const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
`;

export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Whole>
      <h2>{title}</h2>
      {children}
    </Whole>
  );
}
