/** Checks across answers as the script shows them, below what they are about. */
import styled from "styled-components";

import type { CrossCheck } from "../kinds/CrossChecks";
import { RELATIONS } from "../kinds/relations";

const List = styled.ul`
  font-size: 13.5px;
  color: var(--ink-2);
  padding-block: 5px;
  b {
    color: var(--accent);
  }
`;

export function Checks({ checks }: { checks: readonly CrossCheck[] }) {
  return (
    <List aria-label="Checks across answers">
      {checks.map((check, at) => (
        <li key={at}>
          Checked: <b>{check.left}</b> {RELATIONS[check.relation]}{" "}
          <b>{check.right ?? check.number}</b>
        </li>
      ))}
    </List>
  );
}
