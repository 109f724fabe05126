/** The map itself: cards on their ways, to be zoomed, searched and walked by keyboard. */
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { wayId, type Graph } from "./graph";
import { pastOf } from "./layout";
import { Stops, stopId, type Marked } from "./Stops";
import { useLayout } from "./useLayout";

const Whole = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    height: 70vh;
  }
`;

const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 8px 16px;
  border-bottom: 1px solid var(--line);
  input {
    border: 1px solid var(--edge);
    border-radius: 4px;
    background: var(--paper);
    padding: 4px 9px;
    min-height: 30px;
    width: 190px;
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
    stroke: var(--loden-mid);
    stroke-width: 1.6;
  }
  path[data-on] {
    stroke: var(--loden);
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
    fill: var(--loden);
    stroke: none;
  }
`;

const LEAST = 0.25;
const MOST = 2;

const clamped = (zoom: number) => Math.min(MOST, Math.max(LEAST, zoom));

interface DrawingProps {
  graph: Graph;
  chosen: string;
  lit: ReadonlySet<string>;
  marks: ReadonlyMap<string, Marked>;
  onChoose: (at: string) => void;
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

export function Drawing({ graph, chosen, lit, marks, onChoose }: DrawingProps) {
  const laid = useLayout(graph);
  const [zoom, setZoom] = useState(1);
  const [wanted, setWanted] = useState("");
  const [turn, setTurn] = useState(0);
  const view = useRef<HTMLDivElement>(null);
  const found = matches(graph, wanted);
  const fit = () => {
    if (!laid || !view.current) return;
    const { clientWidth, clientHeight } = view.current;
    setZoom(clamped(Math.min(clientWidth / laid.width, clientHeight / laid.height, 1)));
  };
  useEffect(() => {
    const box = view.current;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      setZoom((now) => clamped(now * (event.deltaY < 0 ? 1.1 : 1 / 1.1)));
    };
    box?.addEventListener("wheel", wheel, { passive: false });
    return () => box?.removeEventListener("wheel", wheel);
  }, []);
  useEffect(() => {
    if (!lit.size) return;
    document.querySelector("[data-lit]")?.scrollIntoView({ block: "nearest" });
  }, [lit]);
  const next = () => {
    const at = found[turn % found.length];
    if (!at) return;
    setTurn(turn + 1);
    onChoose(at);
    document.getElementById(stopId(at))?.scrollIntoView({ block: "center", inline: "center" });
  };
  return (
    <Whole>
      <Bar role="toolbar" aria-label="The map">
        <Button aria-label="Smaller" onPress={() => setZoom(clamped(zoom / 1.25))}>
          −
        </Button>
        <Quiet aria-live="polite">{Math.round(zoom * 100)} %</Quiet>
        <Button aria-label="Larger" onPress={() => setZoom(clamped(zoom * 1.25))}>
          +
        </Button>
        <Button onPress={fit}>Fit</Button>
        <Button weight="word" onPress={() => setZoom(1)}>
          100 %
        </Button>
        <input
          type="search"
          aria-label="Find on the map"
          placeholder="Find a page or a rule"
          value={wanted}
          onChange={(event) => {
            setWanted(event.target.value);
            setTurn(0);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") next();
          }}
        />
        {wanted.trim() ? (
          <Quiet role="status">
            {found.length ? `${found.length} found, Enter goes to the next` : "Nothing found"}
          </Quiet>
        ) : null}
      </Bar>
      <View ref={view} data-region="script">
        {laid ? (
          <div style={{ width: laid.width * zoom, height: laid.height * zoom, margin: "0 auto" }}>
            <div
              style={{
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
