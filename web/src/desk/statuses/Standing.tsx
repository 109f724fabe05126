/** How many entries stand where, as a bar; each part leads to those entries. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "react-aria-components/Button";
import styled from "styled-components";

import { standing, useStatuses, type Status } from "../handling";
import { StatusGlyph, toneColour } from "./StatusMark";

const Bar = styled.div`
  display: flex;
  gap: 2px;
  height: 5px;
  padding-inline: 20px;
  i {
    min-width: 3px;
    border-radius: 1px;
  }
`;

const Parts = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0 4px;
  padding: 2px 14px 4px;
  button {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    border: 0;
    background: none;
    color: var(--ink-2);
    padding: 2px 6px;
    min-height: 26px;
    font-size: 13.5px;
    cursor: pointer;
    border-radius: 3px;
  }
  button[data-hovered] {
    background: var(--mist);
  }
  button[aria-pressed="true"] {
    background: var(--flax-soft);
    color: var(--ink);
  }
  b {
    color: var(--ink);
  }
  .late b {
    color: var(--rust);
  }
`;

interface StandingProps {
  id: string;
  /** The key of the status that is shown alone. */
  shown: string | undefined;
  isLate: boolean;
  onStatus: (status: Status) => void;
  onLate: () => void;
}

export function Standing({ id, shown, isLate, onStatus, onLate }: StandingProps) {
  const { every } = useStatuses(id);
  const found = useQuery({ ...standing(id), enabled: every.length > 0 }).data;
  if (!every.length || !found) return null;
  const counts = new Map(found.map(({ key, entries }) => [key, entries]));
  const late = found.reduce((sum, one) => sum + one.late, 0);
  return (
    <div role="group" aria-label="How many entries stand where">
      <Bar aria-hidden="true">
        {every.map(({ key, tone }) =>
          counts.get(key) ? (
            <i key={key} style={{ flexGrow: counts.get(key) ?? 0, background: toneColour(tone) }} />
          ) : null,
        )}
      </Bar>
      <Parts>
        {every.map((status) => (
          <li key={status.key}>
            <Button aria-pressed={shown === status.key} onPress={() => onStatus(status)}>
              <StatusGlyph {...status} />
              {status.name} <b>{counts.get(status.key) ?? 0}</b>
            </Button>
          </li>
        ))}
        {late ? (
          <li className="late">
            <Button aria-pressed={isLate} onPress={onLate}>
              Late <b>{late}</b>
            </Button>
          </li>
        ) : null}
      </Parts>
    </div>
  );
}
