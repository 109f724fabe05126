/** The foot of the script: its keys, what opens over it, who else is here, and how saving goes. */
import { memo } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Keys, Quiet } from "../../ui/text";
import { AlsoHere } from "../draft/AlsoHere";
import type { Saving } from "../draft/draftState";
import { SAVING } from "../draft/saving";
import type { Present } from "../draft/usePresence";
import type { Open } from "../sheets/ScriptSheets";

const Foot = styled.p`
  position: sticky;
  bottom: 0;
  margin: auto calc(-1 * var(--gap)) 0;
  background: var(--paper);
  border-top: 1px solid var(--line);
  padding: 8px var(--gap);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  color: var(--ink-2);
  @media (max-width: 1080px) {
    > :not([role]) {
      display: none;
    }
  }
`;

interface FootProps {
  others: readonly Present[];
  saving: Saving;
  onOpen: (open: Open) => void;
}

export const ScriptFoot = memo(function ScriptFoot({ others, saving, onOpen }: FootProps) {
  return (
    <Foot>
      <span>
        <Keys>Enter</Keys> new question
      </span>
      <span>
        <Keys>Alt ↑↓</Keys> move
      </span>
      <span>
        <Keys>Ctrl /</Keys> kind
      </span>
      <span>
        <Keys>Ctrl D</Keys> duplicate
      </span>
      <span>
        <Keys>F6</Keys> bench
      </span>
      <Button weight="word" onPress={() => onOpen("jot")}>
        <Keys>Alt J</Keys> Jot several at once
      </Button>
      <Button weight="word" onPress={() => onOpen("bank")}>
        <Keys>Alt B</Keys> Bank
      </Button>
      <Button weight="word" onPress={() => onOpen("arrange")}>
        <Keys>Alt A</Keys> Arrange
      </Button>
      <Button weight="word" onPress={() => onOpen("jump")}>
        <Keys>Ctrl K</Keys> Jump
      </Button>
      <AlsoHere others={others} />
      <Quiet role="status" style={{ marginInlineStart: "auto" }}>
        {SAVING[saving]}
      </Quiet>
    </Foot>
  );
});
