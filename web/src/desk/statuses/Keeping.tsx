/** For how long entries are kept once the work on them has ended, and what becomes of them then. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { Choices } from "../../ui/Choices";
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { Toggle } from "../../ui/Toggle";
import { edition } from "../data";
import { everyItem, isValued } from "../document";
import { subjectOf } from "../subjects";
import { useRested } from "../useRested";
import { Several, type Handling } from "./OneStatus";

const Whole = styled.section`
  margin-top: 18px;
  h3 {
    font-size: 15.5px;
  }
`;

type Keeping = NonNullable<Handling["keeping"]>;

const THEN = [
  { code: "delete", label: "deleted" },
  { code: "anonymise", label: "anonymised" },
];

interface KeepingProps {
  id: string;
  revision: number;
  handling: Handling;
  onChange: (keeping: Keeping | null) => void;
}

/** How many would go by that. */
function Going({ id, revision, handling }: Omit<KeepingProps, "onChange">) {
  const written = useRested(JSON.stringify(handling), 350);
  const going = useQuery({
    queryKey: ["keeping", id, written],
    queryFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/statuses/keeping", {
          params: { path: { id } },
          body: { revision, handling: JSON.parse(written) as Handling },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  }).data;
  if (!going) return null;
  return (
    <Quiet role="status">
      {going.now ? `${going.now} at once, ` : "None at once, "}
      {going.soon} within a week. The column “Kept until” says when each goes.
    </Quiet>
  );
}

function Dropped({
  id,
  keeping,
  onChange,
}: {
  id: string;
  keeping: Keeping;
  onChange: KeepingProps["onChange"];
}) {
  const doc = useQuery(edition(id)).data?.document;
  if (!doc) return null;
  const options = everyItem(doc)
    .filter(isValued)
    .map((item) => ({ code: item.key, label: subjectOf(doc, item).label }));
  return (
    <Several>
      <Choices
        label="Answers that go; the others stay"
        help="Who sent it, earlier versions, notes, and what letters and calls said go too."
        options={options}
        value={[...(keeping.drop ?? [])]}
        onChange={(drop) => onChange({ ...keeping, drop })}
      />
    </Several>
  );
}

export function KeepingPart({ id, revision, handling, onChange }: KeepingProps) {
  const keeping = handling.keeping ?? null;
  const ends = handling.statuses?.some(({ final }) => final) ?? false;
  return (
    <Whole>
      <h3>Letting go</h3>
      {ends ? (
        <Toggle
          isSelected={keeping !== null}
          onChange={(on) => onChange(on ? { days: 365, then: "anonymise", drop: [] } : null)}
        >
          Entries go by themselves once the work on them has ended
        </Toggle>
      ) : (
        <Quiet>Entries can go by themselves once a status ends the work on them.</Quiet>
      )}
      {keeping ? (
        <>
          <p>
            They are{" "}
            <Picker
              inline
              label="What becomes of them"
              options={THEN}
              value={keeping.then ?? "delete"}
              onChange={(then) => onChange({ ...keeping, then: then as Keeping["then"] })}
            />{" "}
            <InSentence
              name="Days that entries are kept"
              type="number"
              min={1}
              max={36500}
              value={String(keeping.days)}
              onChange={(text) =>
                onChange({
                  ...keeping,
                  days: Math.min(Math.max(Math.trunc(Number(text)) || 1, 1), 36500),
                })
              }
            />{" "}
            days after that.
          </p>
          {keeping.then === "anonymise" ? (
            <Dropped id={id} keeping={keeping} onChange={onChange} />
          ) : null}
          <Going id={id} revision={revision} handling={handling} />
        </>
      ) : null}
    </Whole>
  );
}
