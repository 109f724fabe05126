/** Where the stops and ways of a graph are drawn: laid out by ELK, pages in their order from the
 * top down, the ways of rules leaving at the side of their line on the card. */
import type { ElkExtendedEdge, ElkNode } from "elkjs/lib/elk-api";

import type { Graph, Stop } from "./graph";

export interface Placed {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Laid {
  width: number;
  height: number;
  stops: ReadonlyMap<string, Placed>;
  /** Path data (SVG) of each way, and where it arrives. */
  ways: ReadonlyMap<string, string>;
}

const WIDTH = 250;
const HEAD = 50;
const CONDITION = 20;
const RULE = 26;

function heightOf({ condition, rules }: Stop): number {
  return HEAD + (condition ? CONDITION : 0) + rules.length * RULE + (rules.length ? 4 : 0);
}

/** How far below the top of a card the line of a rule is, at its middle. */
function ruleAt(stop: Stop, rule: number): number {
  return HEAD + (stop.condition ? CONDITION : 0) + (rule - 0.5) * RULE;
}

const OPTIONS = {
  "elk.algorithm": "layered",
  "elk.direction": "DOWN",
  "elk.edgeRouting": "ORTHOGONAL",
  "elk.layered.considerModelOrder.strategy": "NODES_AND_EDGES",
  "elk.layered.crossingMinimization.forceNodeModelOrder": "false",
  "elk.layered.spacing.nodeNodeBetweenLayers": "34",
  "elk.layered.spacing.edgeNodeBetweenLayers": "16",
  "elk.layered.spacing.edgeEdgeBetweenLayers": "10",
  "elk.spacing.nodeNode": "36",
  "elk.spacing.edgeNode": "18",
  "elk.spacing.edgeEdge": "10",
  "elk.padding": "[top=20,left=20,bottom=20,right=20]",
};

/** Up to so many stops stand in one column, on the straightest lines, whose time grows fast with
 * them; more go on in further columns, as high together as they are wide. */
const COLUMN = 16;

export const inColumns = (stops: number): boolean => stops > COLUMN;

const ONE_COLUMN = { "elk.layered.nodePlacement.strategy": "NETWORK_SIMPLEX" };
const COLUMNS = {
  "elk.layered.nodePlacement.strategy": "BRANDES_KOEPF",
  "elk.layered.wrapping.strategy": "MULTI_EDGE",
  "elk.layered.wrapping.multiEdge.improveWrappedEdges": "false",
  "elk.aspectRatio": "1.3",
};

const port = (id: string, x: number, y: number, side: string) => ({
  id,
  x,
  y,
  width: 0,
  height: 0,
  layoutOptions: { "elk.port.side": side },
});

export function asElk({ stops, ways }: Graph): ElkNode {
  return {
    id: "map",
    layoutOptions: { ...OPTIONS, ...(inColumns(stops.length) ? COLUMNS : ONE_COLUMN) },
    children: stops.map((stop) => {
      const height = heightOf(stop);
      return {
        id: stop.at,
        width: WIDTH,
        height,
        layoutOptions: { "elk.portConstraints": "FIXED_POS" },
        ports: [
          port(`${stop.at} in`, 28, 0, "NORTH"),
          port(`${stop.at} side`, WIDTH * 0.6, 0, "NORTH"),
          port(`${stop.at} on`, 28, height, "SOUTH"),
          ...stop.rules.map((_, at) =>
            port(`${stop.at} ${at + 1}`, WIDTH, ruleAt(stop, at + 1), "EAST"),
          ),
        ],
      };
    }),
    edges: ways.map(({ id, from, to, rule }) => ({
      id,
      sources: [`${from} ${rule ?? "on"}`],
      targets: [`${to} ${rule ? "side" : "in"}`],
      layoutOptions: {
        "elk.layered.priority.straightness": rule ? "1" : "20",
        "elk.layered.priority.shortness": rule ? "1" : "10",
      },
    })),
  };
}

/** The way past a page that is shown under a condition, beside its card. */
export function pastOf({ x, y, height }: Placed): string {
  const [on, out] = [x + 28, x - 14];
  return `M${on} ${y - 22}L${out} ${y - 12}L${out} ${y + height + 6}L${on} ${y + height + 18}`;
}

function pathOf(edge: ElkExtendedEdge): string {
  return (edge.sections ?? [])
    .map(({ startPoint, bendPoints = [], endPoint }) =>
      [startPoint, ...bendPoints, endPoint]
        .map(({ x, y }, at) => `${at ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`)
        .join(""),
    )
    .join("");
}

export function laidOut(whole: ElkNode): Laid {
  const placed = (whole.children ?? []).map(
    ({ id, x = 0, y = 0, width = 0, height = 0 }) => [id, { x, y, width, height }] as const,
  );
  return {
    width: whole.width ?? 0,
    height: whole.height ?? 0,
    stops: new Map(placed),
    ways: new Map((whole.edges ?? []).map((edge) => [edge.id, pathOf(edge)])),
  };
}
