/** In which hours anything goes out, and when somebody who was not reached is tried again. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { InSentence } from "../../ui/InSentence";
import { Toggle } from "../../ui/Toggle";
import { Sentence } from "../gate/Part";
import { useContactFields } from "./contactSubjects";
import type { Round } from "./data";
import type { Editing } from "./useRound";

const Whole = styled.details`
  margin-block-start: 26px;
  border-top: 1px solid var(--line);
  padding-block-start: 10px;
  max-width: 640px;
  summary {
    font: 600 16px var(--head);
    cursor: pointer;
  }
  > div {
    display: grid;
    gap: 10px;
    padding-block-start: 10px;
  }
`;

type Times = NonNullable<Round["hours"]>;

const EVERY = [1, 2, 3, 4, 5, 6, 7];
const WORKDAYS = [1, 2, 3, 4, 5];

interface HoursProps {
  what: string;
  times: Times;
  onTimes: (times: Times) => void;
}

/** One span of hours on workdays or every day; more of them stay as they are. */
function Hours({ what, times, onTimes }: HoursProps) {
  const [first] = times.hours ?? [];
  const set = (hours: NonNullable<Times["hours"]>[number]) =>
    onTimes({ ...times, hours: [hours, ...(times.hours ?? []).slice(1)] });
  if (!first) {
    return (
      <Sentence>
        {what} at any hour.
        <Button
          weight="word"
          onPress={() => set({ days: WORKDAYS, opens: "09:00", shuts: "17:00" })}
        >
          Only in some hours
        </Button>
      </Sentence>
    );
  }
  return (
    <Sentence>
      {what} on
      <Choose
        name={`${what}: days`}
        value={first.days.length === 7 ? "every" : "work"}
        options={[
          { code: "work", label: "Monday to Friday" },
          { code: "every", label: "every day" },
        ]}
        onChange={(code) => set({ ...first, days: code === "every" ? EVERY : WORKDAYS })}
      />
      from
      <InSentence
        name={`${what}: from`}
        type="time"
        value={first.opens}
        onChange={(opens) => set({ ...first, opens })}
      />
      to
      <InSentence
        name={`${what}: to`}
        type="time"
        value={first.shuts}
        onChange={(shuts) => set({ ...first, shuts })}
      />
      <Button
        weight="word"
        aria-label={`${what} at any hour`}
        onPress={() => onTimes({ ...times, hours: [] })}
      >
        At any hour
      </Button>
    </Sentence>
  );
}

export function RoundSettings({ editing }: { editing: Editing }) {
  const { round, set } = editing;
  const fields = useContactFields();
  const trying = round.trying ?? {};
  const times = trying.times ?? {};
  return (
    <Whole>
      <summary>Name, hours and trying again</summary>
      <div>
        <Field
          label="Name of the round"
          value={round.name}
          maxLength={80}
          onChange={(name) => set({ name })}
        />
        <Field
          label="Kind of letters"
          value={round.kind ?? ""}
          maxLength={60}
          help="For example “Yearly water test”. Who wants no more letters can choose: of this questionnaire, of this kind, or any."
          onChange={(kind) => set({ kind })}
        />
        <Hours
          what="Letters go out"
          times={round.hours ?? {}}
          onTimes={(hours) => set({ hours })}
        />
        <Hours
          what="Calls and visits"
          times={times}
          onTimes={(next) => set({ trying: { ...trying, times: next } })}
        />
        <Sentence>
          In the time zone that
          <Choose
            name="Field of the time zone"
            value={round.zone_field ?? ""}
            options={[
              { code: "", label: `the questionnaire has, ${editing.kept.zone}` },
              ...fields.map(({ key, label }) => ({ code: key, label: `the field ${label} names` })),
            ]}
            onChange={(zone) => set({ zone_field: zone })}
          />
        </Sentence>
        <Sentence>
          Who was not reached is tried again after
          <InSentence
            name="Hours between two tries"
            type="number"
            min={0}
            max={1440}
            value={String(trying.apart ?? 4)}
            onChange={(text) => set({ trying: { ...trying, apart: Number(text) || 0 } })}
          />
          hours, at most
          <InSentence
            name="Tries"
            type="number"
            min={1}
            max={50}
            value={String(trying.most ?? 6)}
            onChange={(text) =>
              set({ trying: { ...trying, most: Math.min(Math.max(Number(text) || 1, 1), 50) } })
            }
          />
          times
        </Sentence>
        <Toggle
          isSelected={trying.other_hours ?? true}
          onChange={(other) => set({ trying: { ...trying, other_hours: other } })}
        >
          Not twice at the same hour of the day
        </Toggle>
      </div>
    </Whole>
  );
}
