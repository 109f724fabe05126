/** How long places are held, what gives them back, and who gets what comes free. */
import { InSentence } from "../../ui/InSentence";
import { Toggle } from "../../ui/Toggle";
import { FIRST, useStatuses } from "../handling";
import { usePlaceId } from "../shell/Place";
import { numberOr, partsOf, type Gate } from "./data";
import { Sentence, Wrong } from "./Part";

interface HoldProps {
  gate: Gate;
  writes: boolean;
  faultAt: (at: string) => string | undefined;
  onChange: (change: Partial<Gate>) => void;
}

/** The statuses with which an entry gives its place back. */
function FreedBy({ gate, writes, onChange }: Pick<HoldProps, "gate" | "writes" | "onChange">) {
  const statuses = useStatuses(usePlaceId()).every.filter(({ key }) => key !== FIRST);
  const freed = gate.freed_by ?? [];
  if (!statuses.length) return null;
  return (
    <>
      <p>An entry gives its place back once its status is:</p>
      {statuses.map(({ key, name }) => (
        <Toggle
          key={key}
          isSelected={freed.includes(key)}
          isDisabled={!writes}
          onChange={(on) =>
            onChange({ freed_by: on ? [...freed, key] : freed.filter((one) => one !== key) })
          }
        >
          {name}
        </Toggle>
      ))}
    </>
  );
}

export function HoldPart({ gate, writes, faultAt, onChange }: HoldProps) {
  const { hold, waiting } = partsOf(gate);
  return (
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
      <FreedBy gate={gate} writes={writes} onChange={onChange} />
      {faultAt("freed_by") ? <Wrong>{faultAt("freed_by")}</Wrong> : null}
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
  );
}
