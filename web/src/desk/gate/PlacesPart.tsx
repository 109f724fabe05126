/** Places: how many there are, what is taken of them, and who waits. */
import { Button } from "../../ui/Button";
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { everyItem, type Doc } from "../document";
import { staffName } from "../subjects";
import { numberOr, partsOf, type Gate, type Places, type Standing } from "./data";
import { CellRow, Rows } from "./CellRow";
import { HoldPart } from "./HoldPart";
import { Part, Sentence, Wrong } from "./Part";
import { cellsOf, sameValues } from "./values";
import { about } from "./when";

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
    const others = (places.limits ?? []).filter((one) => !sameValues(one.values, values));
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
            <CellRow
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
  const { places } = partsOf(gate);
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
        <HoldPart gate={gate} writes={writes} faultAt={faultAt} onChange={onChange} />
      ) : null}
    </Part>
  );
}
