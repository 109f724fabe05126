/** A part of the gate: a heading, and sentences whose words are changed in place. */
import type { ReactNode } from "react";
import styled from "styled-components";

const Whole = styled.section`
  border-top: 1px solid var(--line);
  padding-top: 12px;
  display: grid;
  gap: 8px;
  align-content: start;
  min-width: 0;
  > button {
    justify-self: start;
  }
`;

/** A line of words and short fields. */
export const Sentence = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 7px;
  align-items: center;
`;

export const Wrong = styled.b.attrs({ role: "alert" })`
  color: var(--rust);
`;

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Whole>
      <h3>{title}</h3>
      {children}
    </Whole>
  );
}
