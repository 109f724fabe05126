/** What is asked of browsers, and who is written to about the gate. */
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { Quiet } from "../../ui/text";
import { numberOr, partsOf } from "./data";
import { Part, Sentence } from "./Part";
import type { PartProps } from "./PeopleParts";

const PROOFS = [
  { code: "0", label: "none" },
  { code: "14", label: "a quarter of a second" },
  { code: "16", label: "about a second" },
  { code: "18", label: "a few seconds" },
];

export function RobotsPart({ gate, writes, onChange }: PartProps) {
  const { robots } = partsOf(gate);
  const put = (part: Partial<typeof robots>) => onChange({ robots: { ...robots, ...part } });
  return (
    <Part title="Against programs that fill it in">
      <Sentence>
        The browser works
        <Picker
          inline
          label="Work of the browser"
          value={String(robots.proof)}
          options={PROOFS}
          isDisabled={!writes}
          onChange={(code) => put({ proof: Number(code) })}
        />
        and answering takes at least
        <InSentence
          name="Seconds at least"
          type="number"
          min={0}
          max={600}
          value={String(robots.least)}
          isDisabled={!writes}
          onChange={(text) => put({ least: Math.min(numberOr(text, 0), 600) })}
        />
        seconds; one network sends at most
        <InSentence
          name="Entries an hour from one network"
          type="number"
          min={0}
          value={robots.pace ? String(robots.pace) : ""}
          placeholder="any"
          isDisabled={!writes}
          onChange={(text) => put({ pace: numberOr(text, 0) })}
        />
        entries an hour.
      </Sentence>
      <Toggle isSelected={robots.trap} isDisabled={!writes} onChange={(trap) => put({ trap })}>
        A field that people do not see has to stay empty
      </Toggle>
      <Quiet>
        There is no puzzle, and nothing is sent to anybody else. Pass holders, people who signed in,
        and who confirmed a mail address are not asked.
      </Quiet>
    </Part>
  );
}

export function TellPart({
  gate,
  writes,
  faultAt,
  onChange,
}: PartProps & { faultAt: (at: string) => string | undefined }) {
  const { tell, low } = partsOf(gate);
  const wrong = tell.map((_, at) => faultAt(`tell/${at}`)).find(Boolean);
  return (
    <Part title="Whom to tell">
      <Sentence>
        A letter goes to
        <InSentence
          name="Mail addresses to tell"
          type="text"
          size={30}
          value={tell.join(", ")}
          placeholder="nobody"
          isDisabled={!writes}
          onChange={(text) => onChange({ tell: text.split(",").map((one) => one.trim()) })}
        />
        when it opened or shut by its times, and when there are
        <InSentence
          name="Places left"
          type="number"
          min={0}
          value={String(low)}
          isDisabled={!writes}
          onChange={(text) => onChange({ low: numberOr(text, 0) })}
        />
        places left or fewer.
      </Sentence>
      {wrong ? <b role="alert">{wrong}</b> : null}
    </Part>
  );
}
