/** The narrow page that everything before the desk stands on. */
import type { ReactNode } from "react";
import styled from "styled-components";

import { Arm } from "../../ui/Arm";

const Middle = styled.main`
  max-width: 440px;
  margin: clamp(24px, 10vh, 120px) auto 40px;
  padding: 0 20px;
  overflow-wrap: anywhere;
  h1 {
    font-size: 26px;
    margin: 6px 0 18px;
  }
  form,
  section {
    display: grid;
    gap: 16px;
  }
`;

const Brand = styled.p`
  font: 700 17px var(--head);
  color: var(--accent);
  display: flex;
  gap: 9px;
  align-items: center;
`;

/** Ways beside the main one, below it. */
export const Others = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 18px;
  padding-top: 14px;
  border-top: 1px solid var(--line);
`;

interface FrameProps {
  /** The name of the office, where it is known already. */
  office: string | undefined;
  title: string;
  children: ReactNode;
}

export function Frame({ office, title, children }: FrameProps) {
  return (
    <Middle id="main">
      <Brand>
        <Arm state="open" size={20} />
        {office ?? "Jot Gate"}
      </Brand>
      <h1>{title}</h1>
      {children}
    </Middle>
  );
}
