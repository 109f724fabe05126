/** The fields of the office's own that contacts have. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Mono, Quiet } from "../../ui/text";
import { keyFrom } from "../keys";
import { faultAt, otherFault, useDoing } from "../useDoing";
import {
  addField,
  BUILT_IN,
  CONTACTS,
  FIELDS,
  putField,
  removeField,
  type ContactField,
} from "./data";

type Kind = NonNullable<ContactField["kind"]>;

const KINDS: Record<Kind, string> = {
  text: "text",
  number: "number",
  date: "date",
  yes_no: "yes or no",
  pick: "one of several options",
};

const Form = styled.form`
  display: grid;
  gap: 12px;
  border-top: 1px solid var(--line-2);
  padding-top: 12px;
`;

const optionsOf = (text: string) =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);

interface EditProps {
  taken: ReadonlySet<string>;
  start: ContactField | null;
  onDone: () => void;
}

function Edit({ taken, start, onDone }: EditProps) {
  const [label, setLabel] = useState(start?.label ?? "");
  const [kind, setKind] = useState<Kind>(start?.kind ?? "text");
  const [options, setOptions] = useState((start?.options ?? []).join("\n"));
  const saving = useDoing(
    () => {
      const key = start?.key ?? keyFrom(label, taken, "field");
      const field = { key, label, kind, options: kind === "pick" ? optionsOf(options) : [] };
      return start ? putField(field) : addField(field);
    },
    [FIELDS],
    onDone,
  );
  const other = otherFault(saving.error, ["label", "options"]);
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      <Field
        label={start ? "Name of the field" : "Name of the new field"}
        value={label}
        maxLength={80}
        error={faultAt(saving.error, "label")}
        onChange={setLabel}
      />
      {start ? null : (
        <p>
          It holds a{" "}
          <Choose
            name="What the field holds"
            value={kind}
            options={Object.entries(KINDS).map(([code, words]) => ({ code, label: words }))}
            onChange={(code) => setKind(code as Kind)}
          />
        </p>
      )}
      {kind === "pick" ? (
        <Field
          label="Options, one a line"
          lines={4}
          value={options}
          error={faultAt(saving.error, "options")}
          onChange={setOptions}
        />
      ) : null}
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" type="submit">
          {start ? "Save" : "Add the field"}
        </Button>
        {start ? <Button onPress={onDone}>Cancel</Button> : null}
      </Actions>
    </Form>
  );
}

interface FieldsProps {
  fields: readonly ContactField[];
  onClose: () => void;
}

export function FieldsSheet({ fields, onClose }: FieldsProps) {
  const [edited, setEdited] = useState("");
  const [added, setAdded] = useState(0);
  const taken = new Set([...BUILT_IN, ...fields].map(({ key }) => key));
  const removing = useDoing(removeField, [FIELDS, CONTACTS]);
  return (
    <Sheet title="Fields of contacts" open onClose={onClose}>
      <p>
        Every contact has a name, a mail address, a key, a phone number and a language. Texts and
        carried values of questionnaires can use these and your own fields.
      </p>
      {fields.length ? (
        <Lines>
          {fields.map((field) => (
            <li key={field.key}>
              {edited === field.key ? (
                <Edit taken={taken} start={field} onDone={() => setEdited("")} />
              ) : (
                <>
                  <b>{field.label}</b> <Mono>{field.key}</Mono>{" "}
                  <Quiet>{KINDS[field.kind ?? "text"]}</Quiet>{" "}
                  <Button
                    weight="word"
                    aria-label={`Change the field ${field.label}`}
                    onPress={() => setEdited(field.key)}
                  >
                    Change
                  </Button>{" "}
                  <Button
                    weight="word"
                    aria-label={`Delete the field ${field.label} with what contacts have in it`}
                    onPress={() => removing.mutate(field.key)}
                  >
                    Delete with its values
                  </Button>
                </>
              )}
            </li>
          ))}
        </Lines>
      ) : null}
      {removing.error ? <Strip tone="wrong">{removing.error.message}</Strip> : null}
      <Edit key={added} taken={taken} start={null} onDone={() => setAdded((count) => count + 1)} />
      <Actions>
        <Button onPress={onClose}>Done</Button>
      </Actions>
    </Sheet>
  );
}
