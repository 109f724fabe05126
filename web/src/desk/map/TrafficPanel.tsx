/** How many went which way, as a table; the map beside it shows the same. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { Picker } from "../../ui/Picker";
import { Strip } from "../../ui/Strip";
import { Quiet, Unseen } from "../../ui/text";
import { editions } from "../data";
import { count } from "../document";
import { many } from "../figures/words";
import { Side } from "../shell/Section";
import { finishAt, pageAt, type Graph, type Stop } from "./graph";
import { countsOf, isChanged, pastId, type PageTraffic, type Traffic } from "./traffic";
import type { Counting } from "./useTraffic";

const Inside = styled.div`
  display: grid;
  gap: 12px;
  padding: 16px 18px 30px;
  h2 {
    font-size: 20px;
  }
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th,
  td {
    padding: 5px 0;
    vertical-align: top;
    text-align: end;
  }
  th:first-child {
    text-align: start;
    padding-inline-end: 10px;
    overflow-wrap: anywhere;
  }
  thead th {
    color: var(--ink-2);
    font-weight: 400;
  }
  td,
  thead th:not(:first-child) {
    white-space: nowrap;
    padding-inline-start: 10px;
  }
  tr[data-stop] > * {
    border-top: 1px solid var(--line);
  }
  tbody tr:not([data-stop]) > * {
    padding-top: 0;
    font-weight: 400;
    color: var(--ink-2);
  }
  tbody tr:not([data-stop]) > th {
    padding-inline-start: 14px;
  }
`;

const told = (number: number | null) => (number === null ? "not told" : many(number));

interface RowsProps {
  one: PageTraffic;
  stop: Stop;
  titles: ReadonlyMap<string, string>;
  /** How many were led past it. */
  past: number | null | undefined;
}

/** A page, and below it the ways out of it where there are several. */
function PageRows({ one, stop, titles, past }: RowsProps) {
  return (
    <>
      <tr data-stop>
        <th scope="row">{stop.title}</th>
        <td>{told(one.came)}</td>
        <td>{told(one.stopped)}</td>
      </tr>
      {stop.condition ? (
        <tr>
          <th scope="row">led past it, as it is shown when {stop.condition}</th>
          <td>{told(past ?? null)}</td>
          <td />
        </tr>
      ) : null}
      {stop.rules.map(({ says, to }, at) => (
        <tr key={at}>
          <th scope="row">
            if {says}, to {titles.get(to) ?? to}
          </th>
          <td>{told(one.rules[at] ?? null)}</td>
          <td />
        </tr>
      ))}
      {stop.rules.length ? (
        <tr>
          <th scope="row">straight on</th>
          <td>{told(one.on)}</td>
          <td />
        </tr>
      ) : null}
    </>
  );
}

function Ways({ traffic, then }: { traffic: Traffic; then: Graph }) {
  const stops = new Map(then.stops.map((stop) => [stop.at, stop]));
  const titles = new Map(then.stops.map(({ at, title }) => [at, title]));
  const counts = countsOf(traffic, then, then);
  return (
    <table>
      <caption>
        <Unseen>Pages in their order, with the ways out of each, then the finishes</Unseen>
      </caption>
      <thead>
        <tr>
          <th scope="col">Page</th>
          <th scope="col">came</th>
          <th scope="col">stopped</th>
        </tr>
      </thead>
      <tbody>
        {traffic.pages.map((one) => {
          const stop = stops.get(pageAt(one.key));
          const past = counts.get(pastId(pageAt(one.key)));
          return stop ? (
            <PageRows key={one.key} one={one} stop={stop} titles={titles} past={past} />
          ) : null;
        })}
        {traffic.finishes.map(({ key, came }) => (
          <tr key={key} data-stop>
            <th scope="row">Finish: {titles.get(finishAt(key)) ?? key}</th>
            <td>{told(came)}</td>
            <td />
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface TrafficPanelProps {
  id: string;
  counting: Counting;
  /** The draft. */
  now: Graph;
}

export function TrafficPanel({ id, counting, now }: TrafficPanelProps) {
  const { traffic, then, counts, error, choose } = counting;
  const every = useQuery(editions(id)).data ?? [];
  const isUntold = traffic?.pages.some(({ came, on }) => came === null || on === null);
  return (
    <Side aria-label="The way people went" data-region="bench" tabIndex={0}>
      <Inside>
        <h2>The way people went</h2>
        {error ? <Strip tone="wrong">{error.message}</Strip> : null}
        {traffic && then ? (
          <>
            {every.length > 1 ? (
              <Picker
                label="Entries of"
                options={every.map(({ number }) => ({
                  code: String(number),
                  label: `edition ${number}`,
                }))}
                value={String(traffic.edition)}
                onChange={(code) => choose(Number(code))}
              />
            ) : null}
            <p role="status">
              {count(traffic.entries, "entry")} of edition {traffic.edition}
              {traffic.anonymised
                ? `. Of ${many(traffic.anonymised)} the way is not known any more: they are anonymised.`
                : "."}
            </p>
            <Ways traffic={traffic} then={then} />
            {isUntold ? (
              <Quiet>
                Not told is what follows from a restricted question, from what was known of the
                visitor, or from what a finish sets.
              </Quiet>
            ) : null}
            {isChanged(counts, now) ? (
              <Quiet>
                What the draft has otherwise than that edition has no number on the map.
              </Quiet>
            ) : null}
            <Quiet>
              Stopped are those who saved what they had answered, and neither went on for an hour
              nor sent it. The archive is counted. Counted again every ten seconds.
            </Quiet>
          </>
        ) : error ? null : (
          <Quiet role="status">Counting</Quiet>
        )}
      </Inside>
    </Side>
  );
}
