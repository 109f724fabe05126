/** Places: how many there are, what is taken of them, and who waits. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { Quiet } from "../../ui/text";
import { everyItem, optionsOf, say, type Doc } from "../document";
import { staffName } from "../subjects";
import { numberOr, partsOf, type Gate, type Places, type Standing } from "./data";
import { Part, Sentence, Wrong } from "./Part";
import { about } from "./when";

const Rows = styled.table`
  border-collapse: collapse;
  width: 100%;
  th,
  td {
    text-align: start;
    font-weight: 400;
    padding: 3px 10px 3px 0;
    vertical-align: middle;
  }
  td:last-child {
    white-space: nowrap;
    width: 1%;
  }
`;

const Track = styled.div`
  position: relative;
  height: 9px;
  min-width: 60px;
  background: var(--mist);
  span {
    position: absolute;
    inset-block: 0;
  }
  @media (forced-colors: active) {
    border: 1px solid CanvasText;
    span {
      background: Highlight !important;
      forced-color-adjust: none;
    }
  }
`;

type Cell = Standing["places"][number]["cells"][number];

function Bar({ cell }: { cell: Cell }) {
  const most = cell.most ?? 0;
  const share = (number: number) => `${most ? Math.min((number / most) * 100, 100) : 0}%`;
  return (
    <Track aria-hidden="true">
      <span
        style={{
          insetInlineStart: 0,
          width: share(cell.taken),
          background: cell.taken >= most && most ? "var(--rust)" : "var(--accent-mid)",
        }}
      />
      <span
        style={{
          insetInlineStart: share(cell.taken),
          width: share(cell.held),
          background: "var(--ochre)",
        }}
      />
    </Track>
  );
}

interface RowProps {
  cell: Cell;
  places: Places;
  writes: boolean;
  onMost: (most: number | null) => void;
}

function Row({ cell, places, writes, onMost }: RowProps) {
  const name = cell.labels.length ? cell.labels.join(", ") : "All";
  const own = cell.labels.length > 0;
  return (
    <tr>
      <th scope="row">{name}</th>
      <td>
        <Bar cell={cell} />
      </td>
      <td>
        {cell.taken}
        {cell.held ? ` + ${cell.held} held` : ""} of{" "}
        <InSentence
          name={`Places, ${places.name}, ${name}`}
          type="number"
          min={0}
          value={cell.most === null ? "" : String(cell.most)}
          isDisabled={!writes}
          placeholder="any"
          onChange={(text) => onMost(text === "" && own ? null : numberOr(text, cell.most))}
        />
        {cell.waiting ? ` ${cell.waiting} waiting` : ""}
      </td>
    </tr>
  );
}

/** The values of each question that divides places, as they are kept, and what they are called. */
function valuesOf(doc: Doc, key: string): { code: string; label: string }[] {
  const item = everyItem(doc).find((one) => one.key === key);
  if (!item) return [];
  if (item.kind === "yes_no")
    return [
      { code: "yes", label: "Yes" },
      { code: "no", label: "No" },
    ];
  return optionsOf(item).map(({ code, label }) => ({ code, label: say(doc, label) || code }));
}

function combinations(doc: Doc, by: readonly string[]): { values: string[]; labels: string[] }[] {
  return by.reduce<{ values: string[]; labels: string[] }[]>(
    (found, key) =>
      found.flatMap(({ values, labels }) =>
        valuesOf(doc, key).map(({ code, label }) => ({
          values: [...values, code],
          labels: [...labels, label],
        })),
      ),
    [{ values: [], labels: [] }],
  );
}

/** Cells as they will be: what stands now, with the limits that are being written. */
function cellsOf(doc: Doc, places: Places, standing: Standing): (Cell & { values: string[] })[] {
  const known = standing.places.find(({ key }) => key === places.key)?.cells ?? [];
  return combinations(doc, places.by ?? []).map(({ values, labels }) => {
    const cell = JSON.stringify([places.key, ...values]);
    const now = known.find((one) => one.cell === cell);
    const own = places.limits?.find((one) => one.values.join("\u0000") === values.join("\u0000"));
    const counted = { taken: now?.taken ?? 0, held: now?.held ?? 0, waiting: now?.waiting ?? 0 };
    return { cell, labels, values, ...counted, most: own ? own.most : (places.most ?? null) };
  });
}

const NONE = "-";

interface OneProps {
  doc: Doc;
  places: Places;
  standing: Standing;
  writes: boolean;
  wrong: string | undefined;
  onChange: (places: Places) => void;
  onRemove: () => void;
}

function One({ doc, places, standing, writes, wrong, onChange, onRemove }: OneProps) {
  const items = everyItem(doc);
  const dividing = items
    .filter(({ kind }) => ["pick_one", "pick_many", "yes_no", "carried"].includes(kind))
    .map((item) => ({ code: item.key, label: staffName(doc, item) }));
  const numbers = items
    .filter(({ kind }) => ["number", "computed"].includes(kind))
    .map((item) => ({ code: item.key, label: staffName(doc, item) }));
  const [first = NONE, second = NONE] = places.by ?? [];
  const by = (one: string, other: string) =>
    onChange({ ...places, by: [one, other].filter((key) => key !== NONE), limits: [] });
  const cells = cellsOf(doc, places, standing);
  const forecast = standing.places.find(({ key }) => key === places.key)?.forecast;
  const put = (values: string[], most: number | null) => {
    if (!values.length) {
      onChange({ ...places, most });
      return;
    }
    const others = (places.limits ?? []).filter(
      (one) => one.values.join("\u0000") !== values.join("\u0000"),
    );
    onChange({ ...places, limits: most === null ? others : [...others, { values, most }] });
  };
  return (
    <div role="group" aria-label={places.name}>
      <Sentence>
        <InSentence
          name="Name of these places"
          type="text"
          value={places.name}
          isDisabled={!writes}
          onChange={(name) => onChange({ ...places, name })}
        />
        {writes ? (
          <>
            divided by
            <Picker
              inline
              label="Divided by"
              value={first}
              options={[{ code: NONE, label: "nothing" }, ...dividing]}
              onChange={(key) => by(key, key === NONE ? NONE : second)}
            />
            {first === NONE ? null : (
              <>
                and
                <Picker
                  inline
                  label="And by"
                  value={second}
                  options={[
                    { code: NONE, label: "nothing else" },
                    ...dividing.filter(({ code }) => code !== first),
                  ]}
                  onChange={(key) => by(first, key)}
                />
              </>
            )}
            counting
            <Picker
              inline
              label="Counting"
              value={places.amount ?? NONE}
              options={[{ code: NONE, label: "entries" }, ...numbers]}
              onChange={(key) => onChange({ ...places, amount: key === NONE ? null : key })}
            />
            {first === NONE ? null : (
              <>
                with full ones
                <Picker
                  inline
                  label="Full ones"
                  value={places.full ?? "shown"}
                  options={[
                    { code: "shown", label: "shown as full" },
                    { code: "left_out", label: "left out" },
                  ]}
                  onChange={(full) => onChange({ ...places, full: full as Places["full"] })}
                />
                and otherwise of each
                <InSentence
                  name={`Places of each, ${places.name}`}
                  type="number"
                  min={0}
                  value={places.most == null ? "" : String(places.most)}
                  placeholder="any"
                  onChange={(text) =>
                    onChange({ ...places, most: text === "" ? null : numberOr(text, 0) })
                  }
                />
              </>
            )}
            <Button weight="word" aria-label={`Remove ${places.name}`} onPress={onRemove}>
              Remove
            </Button>
          </>
        ) : null}
      </Sentence>
      <Rows>
        <tbody>
          {cells.map((cell) => (
            <Row
              key={cell.cell}
              cell={cell}
              places={places}
              writes={writes}
              onMost={(most) => put(cell.values, most)}
            />
          ))}
        </tbody>
      </Rows>
      {forecast ? (
        <Quiet>
          Full {about(forecast.at, standing.now, standing.zone)} at this pace; in nine cases of ten
          between {about(forecast.low, standing.now, standing.zone)} and{" "}
          {about(forecast.high, standing.now, standing.zone)}.
        </Quiet>
      ) : null}
      {wrong ? <Wrong>{wrong}</Wrong> : null}
    </div>
  );
}

/** A key that no places have. */
function spareKey(places: readonly Places[]): string {
  const used = new Set(places.map(({ key }) => key));
  let number = places.length + 1;
  while (used.has(`places_${number}`)) number += 1;
  return `places_${number}`;
}

interface PlacesProps {
  doc: Doc | null;
  gate: Gate;
  standing: Standing;
  writes: boolean;
  faultAt: (at: string) => string | undefined;
  onChange: (change: Partial<Gate>) => void;
}

export function PlacesPart({ doc, gate, standing, writes, faultAt, onChange }: PlacesProps) {
  const { places, hold, waiting } = partsOf(gate);
  const add = () =>
    onChange({
      places: [
        ...places,
        { key: spareKey(places), name: places.length ? "Places by option" : "Places", most: 100 },
      ],
    });
  return (
    <Part title="Places">
      {doc && places.length ? null : <p>As many as come.</p>}
      {doc
        ? places.map((one, at) => (
            <One
              key={one.key}
              doc={doc}
              places={one}
              standing={standing}
              writes={writes}
              wrong={faultAt(`places/${at}`)}
              onChange={(next) =>
                onChange({ places: places.map((old) => (old.key === one.key ? next : old)) })
              }
              onRemove={() => onChange({ places: places.filter(({ key }) => key !== one.key) })}
            />
          ))
        : null}
      {writes && doc ? <Button onPress={add}>Add places</Button> : null}
      {places.length ? (
        <>
          <Sentence>
            A place is held for whoever answers for
            <InSentence
              name="Minutes that a place is held"
              type="number"
              min={0}
              max={1440}
              value={String(hold)}
              isDisabled={!writes}
              onChange={(text) => onChange({ hold: numberOr(text, 0) })}
            />
            minutes.
          </Sentence>
          <Toggle
            isSelected={waiting.on}
            isDisabled={!writes}
            onChange={(on) => onChange({ waiting: { ...waiting, on } })}
          >
            People can leave their address for a place that comes free
          </Toggle>
          {waiting.on ? (
            <Sentence>
              Whoever is next has
              <InSentence
                name="Hours for who is next"
                type="number"
                min={1}
                value={String(waiting.hours)}
                isDisabled={!writes}
                onChange={(text) =>
                  onChange({ waiting: { ...waiting, hours: Math.max(numberOr(text, 48), 1) } })
                }
              />
              hours to take it.
            </Sentence>
          ) : null}
          {faultAt("waiting") ? <Wrong>{faultAt("waiting")}</Wrong> : null}
        </>
      ) : null}
    </Part>
  );
}
