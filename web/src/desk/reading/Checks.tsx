/** Checks across answers as staff read them, below what they are about. */
import styled from "styled-components";

import type { Doc } from "../document";
import { nameOf } from "../subjects";
import type { CrossCheck } from "../kinds/comparable";
import { RELATIONS } from "../kinds/relations";

const List = styled.ul`
  font-size: 13.5px;
  color: var(--ink-2);
  padding-block: 5px;
  b {
    color: var(--accent);
  }
`;

interface ChecksProps {
  doc: Doc;
  checks: readonly CrossCheck[];
}

export function Checks({ doc, checks }: ChecksProps) {
  const name = (key: string | null | undefined) => (key ? nameOf(doc, key) : null);
  return (
    <List aria-label="Checks across answers">
      {checks.map((check, at) => (
        <li key={at}>
          Checked: <b>{name(check.left)}</b> {RELATIONS[check.relation]}{" "}
          <b>{name(check.right) ?? check.number}</b>
        </li>
      ))}
    </List>
  );
}
