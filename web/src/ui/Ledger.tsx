/** A table with hairlines, which scrolls inside itself where it is wider than the page. */
import type { ReactNode } from "react";
import styled from "styled-components";

const Frame = styled.div`
  position: relative;
  overflow: auto;
  max-width: 100%;
  &:focus-visible {
    outline-offset: -3px;
  }
`;

const Rows = styled.table`
  border-collapse: collapse;
  width: 100%;
  font-size: 14px;
  th {
    text-align: start;
    font-weight: 600;
    background: var(--mist);
    padding: 7px 11px;
    white-space: nowrap;
    vertical-align: top;
    position: sticky;
    top: 0;
  }
  td {
    padding: 7px 11px;
    border-bottom: 1px solid var(--line);
    vertical-align: top;
    max-width: 320px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  tr[data-selected] td {
    background: var(--accent-soft);
  }
  tr[data-pressable] {
    cursor: pointer;
  }
  tr[data-pressable]:hover td {
    background: var(--mist);
  }
  tr[data-pressable][data-selected]:hover td {
    background: var(--accent-soft);
  }
  td[data-number],
  th[data-number] {
    text-align: end;
  }
`;

export function Ledger({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Frame tabIndex={0} role="region" aria-label={name}>
      <Rows>{children}</Rows>
    </Frame>
  );
}
