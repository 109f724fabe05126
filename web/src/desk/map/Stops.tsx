/** The cards of pages and finishes, and the lines of their rules, as buttons. */
import type { KeyboardEvent } from "react";

import { Unseen } from "../../ui/text";
import { Card, Face, Mark, RuleLine } from "./cards";
import { many } from "../figures/words";
import type { Marked } from "../proof/spots";
import { wayId, type Stop } from "./graph";
import type { Laid, Placed } from "./layout";
import type { Counts } from "./traffic";

interface StopsProps {
  stops: readonly Stop[];
  laid: Laid;
  chosen: string;
  lit: ReadonlySet<string>;
  found: ReadonlySet<string>;
  marks: ReadonlyMap<string, Marked>;
  counts: Counts;
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

/** How many came to a stop. */
function cameTo(count: number | null | undefined, isEnd: boolean): string {
  if (count === undefined) return "";
  return count === null
    ? " · how many is not told"
    : ` · ${many(count)} ${isEnd ? "ended here" : "came"}`;
}

export function Stops(props: StopsProps) {
  const { stops, laid, chosen, lit: lits, found, marks, counts, onChoose } = props;
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
          <small>
            {stop.detail}
            {cameTo(counts.get(stop.at), stop.end)}
          </small>
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
            {typeof counts.get(wayId(stop.at, at + 1)) === "number" ? (
              <b>{many(counts.get(wayId(stop.at, at + 1)) ?? 0)}</b>
            ) : null}
            <Unseen>Rule {at + 1}: </Unseen>if {rule.says}
          </RuleLine>
        ))}
      </Card>
    );
  });
}
