/** The cards of pages and finishes, and the lines of their rules, as buttons. */
import type { KeyboardEvent } from "react";
import styled, { css } from "styled-components";

import { Unseen } from "../../ui/text";
import type { Stop } from "./graph";
import type { Laid, Placed } from "./layout";

const lit = css`
  border-color: var(--flax);
  box-shadow: 0 0 0 2px var(--flax);
`;

const Card = styled.div<{ $end: boolean; $lit: boolean; $dim: boolean; $found: boolean }>`
  position: absolute;
  background: ${({ $end }) => ($end ? "var(--mist)" : "var(--paper)")};
  border: 1.5px solid ${({ $dim }) => ($dim ? "var(--line)" : "var(--loden-mid)")};
  border-radius: ${({ $end }) => ($end ? "2px" : "12px")};
  overflow: hidden;
  ${({ $lit }) => ($lit ? lit : "")}
  ${({ $found }) => ($found ? "outline: 3px solid var(--ochre); outline-offset: 2px;" : "")}
  &:has([aria-current="true"]) {
    border-color: var(--loden);
    background: var(--loden-soft);
  }
  &[data-marked="wrong"] {
    border-color: var(--rust);
  }
`;

const Face = styled.button<{ $end: boolean }>`
  display: block;
  width: 100%;
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--ink);
  text-align: start;
  padding: 5px 12px;
  padding-inline-start: ${({ $end }) => ($end ? "34px" : "38px")};
  cursor: pointer;
  position: relative;
  &::before {
    content: "";
    position: absolute;
    inset-inline-start: 14px;
    top: 14px;
    width: 12px;
    height: 12px;
    border: 3px solid var(--loden);
    border-radius: ${({ $end }) => ($end ? "1px" : "50%")};
    background: ${({ $end }) => ($end ? "var(--loden)" : "var(--paper)")};
  }
  b,
  small {
    display: block;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    font-size: 12.5px;
    color: var(--ink-2);
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: -3px;
  }
`;

const RuleLine = styled.button<{ $lit: boolean }>`
  display: block;
  width: 100%;
  height: 26px;
  border: 0;
  border-top: 1px solid var(--line);
  background: ${({ $lit }) => ($lit ? "var(--flax-soft)" : "none")};
  color: var(--ink-2);
  font-size: 12.5px;
  text-align: start;
  padding: 0 12px;
  cursor: pointer;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  &[data-marked="wrong"] {
    color: var(--rust);
    font-weight: 600;
  }
  &[data-marked="advice"] {
    color: var(--ochre);
    font-weight: 600;
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: -3px;
  }
`;

const Mark = styled.span<{ $level: Level }>`
  position: absolute;
  inset-inline-end: 10px;
  top: 8px;
  min-width: 20px;
  border-radius: 10px;
  padding: 0 6px;
  text-align: center;
  font-size: 12.5px;
  font-weight: 700;
  background: ${({ $level }) => ($level === "wrong" ? "var(--rust-soft)" : "var(--ochre-soft)")};
  color: ${({ $level }) => ($level === "wrong" ? "var(--rust)" : "var(--ochre)")};
`;

export type Level = "wrong" | "advice";

/** What was found out about a place: how many things, and the worst of them. */
export interface Marked {
  count: number;
  level: Level;
}

interface StopsProps {
  stops: readonly Stop[];
  laid: Laid;
  chosen: string;
  lit: ReadonlySet<string>;
  found: ReadonlySet<string>;
  marks: ReadonlyMap<string, Marked>;
  onChoose: (at: string) => void;
}

/** The id of the button of a stop or of a rule of it. */
export const stopId = (at: string) => `stop ${at}`;

/** Where an arrow key leads: up and down along the pages, right into the rules and on by them. */
function move(event: KeyboardEvent, stops: readonly Stop[], at: number, rule: number | null) {
  const stop = stops[at];
  if (!stop) return;
  const onto: Record<string, string | undefined> = {
    ArrowUp: rule ? (rule > 1 ? `${stop.at} ${rule - 1}` : stop.at) : stops[at - 1]?.at,
    ArrowDown: rule
      ? rule < stop.rules.length
        ? `${stop.at} ${rule + 1}`
        : stops[at + 1]?.at
      : stops[at + 1]?.at,
    ArrowRight: rule ? stop.rules[rule - 1]?.to : stop.rules.length ? `${stop.at} 1` : undefined,
    ArrowLeft: rule ? stop.at : undefined,
    Home: stops[0]?.at,
    End: stops.at(-1)?.at,
  };
  const to = onto[event.key];
  if (!to) return;
  event.preventDefault();
  const next = document.getElementById(stopId(to));
  next?.focus();
  next?.scrollIntoView({ block: "nearest", inline: "nearest" });
}

function toldOf(mark: Marked | undefined) {
  if (!mark) return null;
  return (
    <Mark $level={mark.level}>
      {mark.count}
      <Unseen> {mark.count === 1 ? "finding" : "findings"}</Unseen>
    </Mark>
  );
}

export function Stops({ stops, laid, chosen, lit: lits, found, marks, onChoose }: StopsProps) {
  const dims = lits.size > 0;
  const place = (placed: Placed) => ({
    left: placed.x,
    top: placed.y,
    width: placed.width,
    height: placed.height,
  });
  return stops.map((stop, number) => {
    const placed = laid.stops.get(stop.at);
    if (!placed) return null;
    const mark = marks.get(stop.at);
    return (
      <Card
        key={stop.at}
        $end={stop.end}
        $lit={lits.has(stop.at)}
        $dim={dims && !lits.has(stop.at)}
        $found={found.has(stop.at)}
        data-marked={mark?.level}
        style={place(placed)}
      >
        <Face
          type="button"
          id={stopId(stop.at)}
          $end={stop.end}
          aria-current={chosen === stop.at}
          data-lit={lits.has(stop.at) || undefined}
          title={[stop.title, stop.condition && `Shown when ${stop.condition}`].join("\n")}
          onClick={() => onChoose(stop.at)}
          onKeyDown={(event) => move(event, stops, number, null)}
        >
          <b>{stop.title}</b>
          <small>{stop.detail}</small>
          {stop.condition ? <small>when {stop.condition}</small> : null}
        </Face>
        {toldOf(mark)}
        {stop.rules.map((rule, at) => (
          <RuleLine
            key={at}
            type="button"
            id={stopId(`${stop.at} ${at + 1}`)}
            $lit={lits.has(`${stop.at} ${at + 1}`)}
            data-marked={marks.get(`${stop.at}/skips/${at + 1}`)?.level}
            title={rule.says}
            onClick={() => onChoose(stop.at)}
            onKeyDown={(event) => move(event, stops, number, at + 1)}
          >
            <Unseen>Rule {at + 1}: </Unseen>if {rule.says}
          </RuleLine>
        ))}
      </Card>
    );
  });
}
