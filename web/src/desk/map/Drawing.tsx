/** The map itself: cards on their ways, to be zoomed, searched and walked by keyboard. */
import { useCallback, useEffect, useState } from "react";
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import { isFar, titleAt } from "./cards";
import type { Marked } from "../proof/spots";
import { wayId, type Graph } from "./graph";
import { inColumns, pastOf, type Laid } from "./layout";
import { MapBar } from "./MapBar";
import { Stops, stopId } from "./Stops";
import { NO_COUNTS, pastId } from "./traffic";
import { useLayout } from "./useLayout";
import type { Counting } from "./useTraffic";
import { useZoom } from "./useZoom";

const Whole = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    height: 70vh;
  }
`;

const View = styled.div`
  overflow: auto;
  background: var(--chalk);
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: -3px;
  }
`;

const Paths = styled.svg`
  position: absolute;
  inset: 0;
  overflow: visible;
  pointer-events: none;
  path {
    fill: none;
    stroke: var(--accent-mid);
    stroke-width: 1.6;
  }
  path[data-on] {
    stroke: var(--accent);
    stroke-width: 4;
  }
  path[data-past] {
    stroke-dasharray: 5 4;
  }
  path[data-lit] {
    stroke: var(--flax);
    stroke-width: 5;
  }
  path[data-dim] {
    opacity: 0.35;
  }
  marker path {
    fill: var(--accent);
    stroke: none;
  }
`;

interface DrawingProps {
  graph: Graph;
  chosen: string;
  lit: ReadonlySet<string>;
  marks: ReadonlyMap<string, Marked>;
  /** How many went where, of all that came; nothing where it is not for whoever looks. */
  counting?: Pick<Counting, "isOn" | "turn" | "counts" | "traffic"> | undefined;
  onChoose: (at: string) => void;
}

/** How wide a way is drawn that so many of all took. */
function widthOf(taken: number | null | undefined, all: number): number | undefined {
  if (taken === undefined || taken === null) return undefined;
  return taken ? 1.5 + (9 * taken) / Math.max(all, 1) : 0.8;
}

/** The stops whose words have `wanted` in them. */
function matches({ stops }: Graph, wanted: string): string[] {
  const words = wanted.trim().toLowerCase();
  if (!words) return [];
  return stops
    .filter((stop) =>
      [stop.title, stop.at, stop.condition, ...stop.rules.map(({ says }) => says)].some((text) =>
        text.toLowerCase().includes(words),
      ),
    )
    .map(({ at }) => at);
}

export function Drawing({ graph, chosen, lit, marks, counting, onChoose }: DrawingProps) {
  const counts = counting?.counts ?? NO_COUNTS;
  const all = counting?.traffic?.entries ?? 0;
  const sized = useZoom();
  const { zoom, view, fit } = sized;
  const begin = useCallback(
    (first: Laid) => {
      if (inColumns(first.stops.size)) fit(first);
    },
    [fit],
  );
  const laid = useLayout(graph, begin);
  const [wanted, setWanted] = useState("");
  const found = matches(graph, wanted);
  useEffect(() => {
    if (!lit.size) return;
    document.querySelector("[data-lit]")?.scrollIntoView({ block: "nearest" });
  }, [lit]);
  const goTo = (at: string) => {
    onChoose(at);
    if (isFar(zoom)) sized.zoomTo(1);
    document.getElementById(stopId(at))?.scrollIntoView({ block: "center", inline: "center" });
  };
  return (
    <Whole>
      <MapBar
        zoom={sized}
        onFit={() => (laid ? fit(laid) : undefined)}
        wanted={wanted}
        onWanted={setWanted}
        found={found}
        onFound={goTo}
        counts={counting?.isOn}
        onCounts={(on) => counting?.turn(on)}
      />
      <View ref={view} data-region="script">
        {laid ? (
          <div style={{ width: laid.width * zoom, height: laid.height * zoom, margin: "0 auto" }}>
            <div
              data-far={isFar(zoom) || undefined}
              style={{
                ["--title" as string]: titleAt(zoom),
                position: "relative",
                width: laid.width,
                height: laid.height,
                transform: `scale(${zoom})`,
                transformOrigin: "0 0",
              }}
            >
              <Paths aria-hidden width={laid.width} height={laid.height}>
                <defs>
                  <marker
                    id="arrives"
                    viewBox="0 0 8 8"
                    refX="7"
                    refY="4"
                    markerWidth="9"
                    markerHeight="9"
                    markerUnits="userSpaceOnUse"
                    orient="auto"
                  >
                    <path d="M0 0L8 4L0 8Z" />
                  </marker>
                </defs>
                {graph.stops
                  .filter(({ condition }) => condition)
                  .map(({ at }) => {
                    const placed = laid.stops.get(at);
                    const passed = lit.has(wayId(at, null)) && !lit.has(at);
                    return placed ? (
                      <path
                        key={at}
                        d={pastOf(placed)}
                        style={{ strokeWidth: widthOf(counts.get(pastId(at)), all) }}
                        data-past
                        data-lit={passed || undefined}
                        data-dim={(lit.size > 0 && !passed) || undefined}
                      />
                    ) : null;
                  })}
                {graph.ways.map(({ id, rule }) => (
                  <path
                    key={id}
                    d={laid.ways.get(id) ?? ""}
                    style={{ strokeWidth: widthOf(counts.get(id), all) }}
                    data-on={rule === null || undefined}
                    data-lit={lit.has(id) || undefined}
                    data-dim={(lit.size > 0 && !lit.has(id)) || undefined}
                    markerEnd="url(#arrives)"
                  />
                ))}
              </Paths>
              <Stops
                stops={graph.stops}
                laid={laid}
                chosen={chosen}
                lit={lit}
                found={new Set(found)}
                marks={marks}
                counts={counts}
                onChoose={onChoose}
              />
            </div>
          </div>
        ) : (
          <Quiet role="status" style={{ display: "block", padding: 20 }}>
            Drawing the map
          </Quiet>
        )}
      </View>
    </Whole>
  );
}
