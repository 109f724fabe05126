/** Opening times: windows, hours of the week, days off, and the grace after it shut. */
import { Button } from "../../ui/Button";
import { InSentence } from "../../ui/InSentence";
import { numberOr, partsOf, type Gate } from "./data";
import { Part, Sentence, Wrong } from "./Part";

type Times = ReturnType<typeof partsOf>["times"];

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

interface PartProps {
  gate: Gate;
  writes: boolean;
  faultAt: (at: string) => string | undefined;
  onChange: (change: Partial<Gate>) => void;
}

interface ListProps<T> {
  list: readonly T[];
  writes: boolean;
  onList: (list: T[]) => void;
}

function without<T>(list: readonly T[], at: number): T[] {
  return list.filter((_, n) => n !== at);
}

function replaced<T>(list: readonly T[], at: number, one: T): T[] {
  return list.map((old, n) => (n === at ? one : old));
}

function Remove({ name, onPress }: { name: string; onPress: () => void }) {
  return (
    <Button weight="word" aria-label={`Remove ${name}`} onPress={onPress}>
      Remove
    </Button>
  );
}

function Windows({ list, writes, onList }: ListProps<Times["windows"][number]>) {
  return list.map((one, at) => (
    <Sentence key={at}>
      Opens
      <InSentence
        name={`Opens, window ${at + 1}`}
        type="datetime-local"
        value={one.opens ?? ""}
        isDisabled={!writes}
        onChange={(opens) => onList(replaced(list, at, { ...one, opens: opens || null }))}
      />
      and shuts
      <InSentence
        name={`Shuts, window ${at + 1}`}
        type="datetime-local"
        value={one.shuts ?? ""}
        isDisabled={!writes}
        onChange={(shuts) => onList(replaced(list, at, { ...one, shuts: shuts || null }))}
      />
      {writes ? (
        <Remove name={`window ${at + 1}`} onPress={() => onList(without(list, at))} />
      ) : null}
    </Sentence>
  ));
}

function Hours({ list, writes, onList }: ListProps<Times["hours"][number]>) {
  return list.map((one, at) => (
    <Sentence key={at} role="group" aria-label={`Hours ${at + 1}`}>
      {DAYS.map((name, n) => (
        <label key={name}>
          <input
            type="checkbox"
            checked={one.days.includes(n + 1)}
            disabled={!writes}
            onChange={(event) => {
              const others = one.days.filter((day) => day !== n + 1);
              const days = event.target.checked ? [...others, n + 1].sort() : others;
              if (days.length) onList(replaced(list, at, { ...one, days }));
            }}
          />{" "}
          {name}
        </label>
      ))}
      from
      <InSentence
        name="From"
        type="time"
        value={one.opens}
        isDisabled={!writes}
        onChange={(opens) => opens && onList(replaced(list, at, { ...one, opens }))}
      />
      to
      <InSentence
        name="To"
        type="time"
        value={one.shuts === "24:00" ? "00:00" : one.shuts}
        isDisabled={!writes}
        onChange={(shuts) => shuts && onList(replaced(list, at, { ...one, shuts }))}
      />
      {one.shuts <= one.opens ? "of the next day" : null}
      {writes ? (
        <Remove name={`hours ${at + 1}`} onPress={() => onList(without(list, at))} />
      ) : null}
    </Sentence>
  ));
}

function DaysOff({ list, writes, onList }: ListProps<Times["days_off"][number]>) {
  return list.map((one, at) => (
    <Sentence key={at}>
      Shut on
      <InSentence
        name={`Day off ${at + 1}`}
        type="date"
        value={one.on}
        isDisabled={!writes}
        onChange={(on) => on && onList(replaced(list, at, { ...one, on }))}
      />
      because of
      <InSentence
        name={`Why, day off ${at + 1}`}
        type="text"
        value={one.note ?? ""}
        isDisabled={!writes}
        placeholder="no reason given"
        onChange={(note) => onList(replaced(list, at, { ...one, note }))}
      />
      {writes ? (
        <Remove name={`day off ${at + 1}`} onPress={() => onList(without(list, at))} />
      ) : null}
    </Sentence>
  ));
}

/** Tomorrow, as a field for days has it. */
function tomorrow(): string {
  return new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
}

export function TimesPart({ gate, writes, faultAt, onChange }: PartProps) {
  const { times, grace } = partsOf(gate);
  const put = (part: Partial<Times>) => onChange({ times: { ...times, ...part } });
  const wrong = [
    ...times.windows.map((_, at) => faultAt(`times/windows/${at}`)),
    ...times.hours.map((_, at) => faultAt(`times/hours/${at}`)),
  ].find(Boolean);
  const none = !times.windows.length && !times.hours.length;
  return (
    <Part title="When it is open">
      {none ? <p>Whenever it was opened by hand.</p> : null}
      <Windows list={times.windows} writes={writes} onList={(windows) => put({ windows })} />
      <Hours list={times.hours} writes={writes} onList={(hours) => put({ hours })} />
      <DaysOff list={times.days_off} writes={writes} onList={(days_off) => put({ days_off })} />
      {wrong ? <Wrong>{wrong}</Wrong> : null}
      {writes ? (
        <Sentence>
          <Button
            onPress={() =>
              put({ windows: [...times.windows, { opens: null, shuts: `${tomorrow()}T18:00` }] })
            }
          >
            Add opening times
          </Button>
          <Button
            onPress={() =>
              put({
                hours: [...times.hours, { days: [1, 2, 3, 4, 5], opens: "08:00", shuts: "18:00" }],
              })
            }
          >
            Add weekly hours
          </Button>
          <Button
            onPress={() => put({ days_off: [...times.days_off, { on: tomorrow(), note: "" }] })}
          >
            Add a day off
          </Button>
        </Sentence>
      ) : null}
      <Sentence>
        Once it has shut, whoever has begun can still send for
        <InSentence
          name="Minutes of grace"
          type="number"
          min={0}
          max={1440}
          value={String(grace)}
          isDisabled={!writes}
          onChange={(text) => onChange({ grace: numberOr(text, 0) })}
        />
        minutes.
      </Sentence>
    </Part>
  );
}
