/** A message across the page: what needs care, what went wrong, what is fine. */
import type { ReactNode } from "react";
import styled, { css } from "styled-components";

type Tone = "care" | "wrong" | "calm";

const tones = {
  care: css`
    background: var(--ochre-soft);
    border-color: var(--ochre);
  `,
  wrong: css`
    background: var(--rust-soft);
    border-color: var(--rust);
  `,
  calm: css`
    background: var(--accent-soft);
    border-color: var(--accent-mid);
  `,
};

const Whole = styled.div<{ $tone: Tone }>`
  ${({ $tone }) => tones[$tone]}
  border-inline-start: 3px solid;
  padding: 7px 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  justify-content: space-between;
`;

export function Strip({ tone = "care", children }: { tone?: Tone; children: ReactNode }) {
  return (
    <Whole $tone={tone} role={tone === "wrong" ? "alert" : "status"}>
      {children}
    </Whole>
  );
}
