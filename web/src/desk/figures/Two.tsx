/** Two groups of entries side by side; the second has another colour, and stripes. */
import { createContext, useContext, type ReactNode } from "react";
import styled from "styled-components";

export const Two = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 290px), 1fr));
  gap: 12px 28px;
`;

const Whole = styled.div`
  min-width: 0;
  > header {
    font-weight: 700;
    margin-block: 8px 4px;
    padding-inline-start: 8px;
    border-inline-start: 4px solid var(--accent-mid);
  }
  > span {
    display: block;
    font-size: 13.5px;
    color: var(--ink-2);
    margin-block-end: 6px;
  }
  &[data-beside] {
    --accent-mid: var(--flax);
    i {
      background-image: repeating-linear-gradient(
        45deg,
        transparent 0 4px,
        color-mix(in srgb, var(--paper) 55%, transparent) 4px 6px
      );
    }
  }
`;

const GroupName = createContext("");

/** What a picture is called aloud: in the second group otherwise than in the first. */
export const useNamed = (name: string): string => `${name}${useContext(GroupName)}`;

interface GroupProps {
  label: string;
  isBeside?: boolean;
  children: ReactNode;
}

export function Group({ label, isBeside = false, children }: GroupProps) {
  return (
    <Whole role="group" aria-label={label} data-beside={isBeside || undefined}>
      <header>{label}</header>
      <GroupName value={isBeside ? `, ${label.toLowerCase()}` : ""}>{children}</GroupName>
    </Whole>
  );
}
