/** The gate's arm: up when it is open, half when it is on hold, down when it is shut. Its words
 * always stand beside it. */
import styled, { css } from "styled-components";

export type ArmState = "open" | "shut" | "held";

const ARMS: Readonly<Record<ArmState, string>> = {
  open: "M4 12 13 3",
  held: "M4 12 18 7",
  shut: "M4 12H20",
};

export function Arm({ state, size = 18 }: { state: ArmState; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 22 22"
      fill="none"
      stroke="currentColor"
      strokeWidth="2.4"
      strokeLinecap="round"
      aria-hidden="true"
    >
      <path d="M4 20V9" />
      <path d={ARMS[state]} />
      <circle cx="4" cy="12" r="2" fill="currentColor" stroke="none" />
      <path d="M2 20h4" />
      {state === "shut" ? <path d="M20 20V10" /> : null}
    </svg>
  );
}

const colours = {
  open: css`
    background: var(--accent-soft);
    color: var(--accent);
  `,
  shut: css`
    background: var(--rust-soft);
    color: var(--rust);
  `,
  held: css`
    background: var(--ochre-soft);
    color: var(--ochre);
  `,
  care: css`
    background: var(--ochre-soft);
    color: var(--ochre);
  `,
  plain: css`
    background: var(--mist);
    color: var(--ink-2);
  `,
  sealed: css`
    background: var(--flax-soft);
    color: var(--flax);
  `,
};

/** A word on a coloured ground. */
export const Tag = styled.span<{ $as: keyof typeof colours }>`
  ${({ $as }) => colours[$as]}
  display: inline-flex;
  align-items: center;
  gap: 6px;
  border-radius: 3px;
  padding: 2px 8px;
  font-size: 13px;
  font-weight: 600;
  white-space: nowrap;
`;

export function GateTag({ state, words }: { state: ArmState; words: string }) {
  return (
    <Tag $as={state}>
      <Arm state={state} size={15} />
      {words}
    </Tag>
  );
}
