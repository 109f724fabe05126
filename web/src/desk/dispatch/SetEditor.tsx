/** Acts that set something, or put somebody on a contact list, as sentences that are changed in
 * place. */
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { Toggle } from "../../ui/Toggle";
import { holdsOf } from "../condition/words";
import type { Around, EditorProps } from "./editors";
import { Line } from "./kit";
import type { Act } from "./rules";
import { asChoice, NUMBER_OF_ENTRY, SourceLine } from "./SourceLine";
import { choices } from "./subjects";

export type SetAct = Extract<Act, { kind: "status" | "care" | "contact" | "value" | "list" }>;
type Editing<K extends SetAct["kind"]> = EditorProps<Extract<SetAct, { kind: K }>>;

/** An empty act of each kind, with what it is called where one is added. */
export const NEW: Record<SetAct["kind"], { label: string; act: SetAct }> = {
  status: { label: "a status", act: { kind: "status", status: "" } },
  care: {
    label: "who takes care",
    act: { kind: "care", who: { kind: "person", person_id: "" } },
  },
  contact: {
    label: "a field of the contact",
    act: { kind: "contact", field: "", source: { kind: "entry", name: "" } },
  },
  value: {
    label: "a carried value",
    act: { kind: "value", key: "", source: { kind: "entry", name: "" } },
  },
  list: {
    label: "who is on a contact list",
    act: { kind: "list", list_id: "", consent: "", confirm: true },
  },
};

/** Which of them can be added. */
export function settable({ statuses, people, lists, carried, contactFields }: Around) {
  const can: Record<SetAct["kind"], boolean> = {
    status: statuses.length > 0,
    care: people.length > 0,
    contact: contactFields.length > 0,
    value: carried.length > 0,
    list: lists.length > 0,
  };
  return (Object.keys(NEW) as SetAct["kind"][]).filter((kind) => can[kind]);
}

function Status({ act, statuses, onChange }: Editing<"status">) {
  return (
    <Line>
      Set the status to
      <Picker
        inline
        label="Status"
        options={choices(statuses)}
        value={act.status || null}
        onChange={(status) => onChange({ ...act, status })}
      />
    </Line>
  );
}

const PERSON = "person ",
  TEAM = "team ",
  TURN = "turn ";

function Care({ act, people, teams, onChange }: Editing<"care">) {
  const { who } = act;
  const id = who.kind === "person" ? who.person_id : who.team_id;
  const lead = who.kind === "person" ? PERSON : who.in_turn ? TURN : TEAM;
  return (
    <Line>
      Have it taken care of by
      <Picker
        inline
        label="Who takes care"
        options={[
          ...people.map(({ code, label }) => ({ code: PERSON + code, label })),
          ...teams.map(({ code, label }) => ({ code: TEAM + code, label: `team ${label}` })),
          ...teams.map(({ code, label }) => ({
            code: TURN + code,
            label: `one of team ${label}, in turn`,
          })),
        ]}
        value={id ? lead + id : null}
        onChange={(code) => {
          const rest = code.slice(code.indexOf(" ") + 1);
          const next = code.startsWith(PERSON)
            ? ({ kind: "person", person_id: rest } as const)
            : ({ kind: "team", team_id: rest, in_turn: code.startsWith(TURN) } as const);
          onChange({ ...act, who: next });
        }}
      />
    </Line>
  );
}

function Contact({ act, contactFields, subjects, parts, onChange }: Editing<"contact">) {
  return (
    <>
      <Line>
        Set
        <Picker
          inline
          label="Field of the contact"
          options={contactFields}
          value={act.field || null}
          onChange={(field) => onChange({ ...act, field })}
        />
        of the contact that it came by to
      </Line>
      <SourceLine
        name="The field"
        source={named(act.source)}
        options={[...subjects.map(asChoice), ...parts]}
        subjects={subjects}
        parts={parts}
        onChange={(source) => {
          if (source) onChange({ ...act, source });
        }}
      />
    </>
  );
}

/** A source that names something, or none where nothing is chosen yet. */
const named = (source: Editing<"value">["act"]["source"]) =>
  source.kind === "entry" && !source.name ? undefined : source;

function Value({ act, carried, subjects, parts, onChange }: Editing<"value">) {
  return (
    <>
      <Line>
        Set the carried value
        <Picker
          inline
          label="Carried value"
          options={carried.map(asChoice)}
          value={act.key || null}
          onChange={(key) => onChange({ ...act, key })}
        />
        to
      </Line>
      <SourceLine
        name="The value"
        source={named(act.source)}
        options={[
          ...subjects.filter(({ key }) => key !== act.key).map(asChoice),
          ...parts,
          NUMBER_OF_ENTRY,
        ]}
        subjects={subjects}
        parts={parts}
        onChange={(source) => {
          if (source) onChange({ ...act, source });
        }}
      />
    </>
  );
}

const NOBODY = " ";

function List({ act, lists, subjects, onChange }: Editing<"list">) {
  const asked = subjects.filter((one) => ["truth", "pick", "picks"].includes(holdsOf(one)));
  const written = subjects.filter((one) => holdsOf(one) === "text");
  const consent = subjects.find(({ key }) => key === act.consent);
  const picked = consent && consent.kind !== "yes_no";
  return (
    <>
      <Line>
        Add to the contact list
        <Picker
          inline
          label="Contact list"
          options={lists}
          value={act.list_id || null}
          onChange={(list_id) => onChange({ ...act, list_id })}
        />
        once
        <Picker
          inline
          label="Question that asks for consent"
          options={asked.map(asChoice)}
          value={act.consent || null}
          onChange={(next) => onChange({ ...act, consent: next, option: "" })}
        />
        {picked ? (
          <>
            has
            <Picker
              inline
              label="Option that says yes"
              options={consent.options}
              value={act.option || null}
              onChange={(option) => onChange({ ...act, option })}
            />
          </>
        ) : (
          "is yes"
        )}
      </Line>
      <Line>
        <Quiet>Where the entry came by no contact: the one with the address</Quiet>
        <Picker
          inline
          label="Mail address"
          options={[{ code: NOBODY, label: "nobody" }, ...written.map(asChoice)]}
          value={act.email || NOBODY}
          onChange={(email) => onChange({ ...act, email: email.trim() })}
        />
        <Quiet>called</Quiet>
        <Picker
          inline
          label="Name of a new contact"
          options={[{ code: NOBODY, label: "no name" }, ...subjects.map(asChoice)]}
          value={act.name || NOBODY}
          onChange={(name) => onChange({ ...act, name: name.trim() })}
        />
      </Line>
      <Toggle
        isSelected={act.confirm ?? false}
        onChange={(confirm) => onChange({ ...act, confirm })}
      >
        Ask them by letter first, and add them once they say yes to that too
      </Toggle>
    </>
  );
}

export function SetEditor({ act, onChange, ...rest }: EditorProps<SetAct>) {
  switch (act.kind) {
    case "status":
      return <Status act={act} onChange={onChange} {...rest} />;
    case "care":
      return <Care act={act} onChange={onChange} {...rest} />;
    case "contact":
      return <Contact act={act} onChange={onChange} {...rest} />;
    case "value":
      return <Value act={act} onChange={onChange} {...rest} />;
    case "list":
      return <List act={act} onChange={onChange} {...rest} />;
  }
}
