/** What was found out about the branching: each in words, with what is at fault and its repairs. */
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";

export type Finding = Schema<"FindingOut">;
export type Repair = Schema<"RepairOut">;

const List = styled.ul`
  display: grid;
  gap: 10px;
`;

const One = styled.li`
  border-inline-start: 3px solid var(--ochre);
  padding-inline-start: 10px;
  display: grid;
  gap: 3px;
  justify-items: start;
  overflow-wrap: anywhere;
  &[data-level="wrong"] {
    border-color: var(--rust);
  }
  > button:first-child {
    border: 0;
    background: none;
    color: var(--ink);
    padding: 0;
    text-align: start;
    cursor: pointer;
    min-height: 24px;
    &:hover {
      text-decoration: underline;
    }
    &:focus-visible {
      outline: 2.5px solid var(--flax);
      outline-offset: 2px;
    }
  }
  p {
    color: var(--ink-2);
    font-size: 13.5px;
  }
`;

const Acts = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

const RANK = { wrong: 0, advice: 1 };

interface FindingsProps {
  findings: readonly Finding[];
  /** Whether they are of the draft as it stands; repairs wait until they are. */
  current: boolean;
  onGo: (at: string) => void;
  /** Null for those who read only. */
  onRepair: ((repair: Repair) => void) | null;
  onExample?: (example: number) => void;
}

/** What was found out: what is wrong first, each in the order of the questionnaire. */
export function Findings({ findings, current, onGo, onRepair, onExample }: FindingsProps) {
  const worst = [...findings].sort((one, other) => RANK[one.level] - RANK[other.level]);
  return (
    <List>
      {worst.map((one) => (
        <One key={`${one.code} ${one.at} ${one.says}`} data-level={one.level}>
          <button type="button" onClick={() => onGo(one.at)}>
            {one.says}
          </button>
          {one.because.length ? (
            <p>Because of {one.because.map(({ name }) => name).join(" and ")}.</p>
          ) : null}
          <Acts>
            {(onRepair ? one.repairs : []).map((repair) => (
              <Button
                key={repair.says}
                isDisabled={!current}
                onPress={() => onRepair?.(repair)}
                aria-label={`${repair.says}: ${one.says}`}
              >
                {repair.says}
              </Button>
            ))}
            {one.example != null && onExample ? (
              <Button weight="word" onPress={() => onExample(one.example ?? 0)}>
                Show an example
              </Button>
            ) : null}
          </Acts>
        </One>
      ))}
    </List>
  );
}
