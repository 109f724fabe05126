/** One status under edit: how it looks, what may follow it, who sets it, and for how long it may
 * last. */
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Choices } from "../../ui/Choices";
import { Field } from "../../ui/Field";
import { InSentence } from "../../ui/InSentence";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { Toggle } from "../../ui/Toggle";
import { everyStatus, FIRST, type Status } from "../handling";
import { GLYPH_NAMES, GLYPHS, StatusGlyph, TONE_NAMES } from "./StatusMark";

export type Handling = Schema<"Handling">;
export type Written = Partial<Omit<Schema<"Status">, "key">>;

const Edit = styled.div`
  display: grid;
  gap: 12px;
  padding: 4px 0 14px;
  margin-inline-start: 22px;
`;

const Looks = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px 230px;
  gap: 10px;
  align-items: end;
  @media (max-width: 620px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** Choices beside each other. */
export const Several = styled.div`
  [role="group"] {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
    gap: 0 10px;
    > :first-child,
    > [slot="description"] {
      grid-column: 1 / -1;
    }
  }
`;

const ROLES = [
  { code: "coordinator", label: "coordinators" },
  { code: "reviewer", label: "reviewers and coordinators" },
  { code: "reader", label: "everybody who reads the entries" },
  { code: "teams", label: "people of these teams" },
];

interface OneStatusProps {
  status: Status;
  written: Written;
  handling: Handling;
  teams: readonly Schema<"CalledOut">[];
  onChange: (change: Partial<Written>) => void;
}

function Follows({ status, written, handling, onChange }: OneStatusProps) {
  const others = everyStatus(handling).filter(({ key }) => key !== status.key);
  return (
    <div>
      <Toggle
        isSelected={!written.next}
        onChange={(any) => onChange({ next: any ? null : others.map(({ key }) => key) })}
      >
        Any other status may follow
      </Toggle>
      {written.next ? (
        <Several>
          <Choices
            label="May follow"
            options={others.map(({ key, name }) => ({ code: key, label: name }))}
            value={[...written.next]}
            onChange={(next) => onChange({ next })}
          />
        </Several>
      ) : null}
    </div>
  );
}

function Sets({ written, teams, onChange }: OneStatusProps) {
  const own = written.teams ?? [];
  const roles = teams.length ? ROLES : ROLES.slice(0, 3);
  return (
    <div>
      <p>
        It is set by{" "}
        <Picker
          inline
          label="Who sets it"
          options={roles}
          value={own.length ? "teams" : (written.role ?? "coordinator")}
          onChange={(code) =>
            onChange(
              code === "teams"
                ? { teams: teams.slice(0, 1).map(({ id }) => id) }
                : { teams: [], role: code as NonNullable<Written["role"]> },
            )
          }
        />
        <Quiet> Owners always may.</Quiet>
      </p>
      {own.length ? (
        <Several>
          <Choices
            label="Teams"
            options={teams.map(({ id, name }) => ({ code: id, label: name }))}
            value={[...own]}
            onChange={(next) => {
              if (next.length) onChange({ teams: next });
            }}
          />
        </Several>
      ) : null}
    </div>
  );
}

function Lasts({ status, written, onChange }: OneStatusProps) {
  const days = written.days ?? null;
  return (
    <div>
      {status.key === FIRST ? null : (
        <Toggle
          isSelected={written.final ?? false}
          onChange={(final) => onChange({ final, ...(final ? { days: null } : {}) })}
        >
          The work on an entry ends here
        </Toggle>
      )}
      {written.final ? null : (
        <Toggle isSelected={days !== null} onChange={(on) => onChange({ days: on ? 7 : null })}>
          Entries are late after some days
        </Toggle>
      )}
      {days === null ? null : (
        <p>
          Late after{" "}
          <InSentence
            name="Days until an entry is late"
            type="number"
            min={1}
            max={3650}
            value={String(days)}
            onChange={(text) =>
              onChange({ days: Math.min(Math.max(Math.trunc(Number(text)) || 1, 1), 3650) })
            }
          />{" "}
          {days === 1 ? "day" : "days"}. They stand on the desk then.
        </p>
      )}
    </div>
  );
}

export function OneStatus(props: OneStatusProps) {
  const { status, written, onChange } = props;
  return (
    <Edit>
      <Looks>
        <Field
          label="Name"
          value={written.name ?? ""}
          maxLength={60}
          onChange={(name) => onChange({ name })}
        />
        <Picker
          label="Shape"
          options={GLYPHS.map((code) => ({
            code,
            label: GLYPH_NAMES[code],
            before: <StatusGlyph glyph={code} tone={status.tone} />,
          }))}
          value={status.glyph}
          onChange={(glyph) => onChange({ glyph: glyph as Status["glyph"] })}
        />
        <Picker
          label="It means that an entry"
          options={Object.entries(TONE_NAMES).map(([code, label]) => ({
            code,
            label,
            before: <StatusGlyph glyph={status.glyph} tone={code as Status["tone"]} />,
          }))}
          value={status.tone}
          onChange={(tone) => onChange({ tone: tone as Status["tone"] })}
        />
      </Looks>
      <Follows {...props} />
      <Sets {...props} />
      <Lasts {...props} />
    </Edit>
  );
}
