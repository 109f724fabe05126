/** What a rule does: filing with its columns, a notice with its words. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Mono, Quiet } from "../../ui/text";
import { count } from "../document";
import { type Subject } from "../subjects";
import { NewRegister, type Column } from "../office/NewRegister";
import { fits, likeNamed, type Act, type File, type Notice, type Register } from "./rules";

const Whole = styled.div`
  border-inline-start: 2px solid var(--line-2);
  padding-inline-start: 12px;
  display: grid;
  gap: 8px;
  justify-items: start;
  > div[data-rac] {
    width: 100%;
  }
`;

const Mapping = styled.div`
  display: grid;
  grid-template-columns: auto minmax(0, auto);
  gap: 5px 14px;
  align-items: center;
`;

const Slots = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
`;

const LEFT_OUT = " ";

export function actWords(act: Act, known: readonly Register[]) {
  if (act.kind === "notice") {
    return (
      <>
        to <b>{act.to}</b>: &ldquo;{act.subject}&rdquo;
      </>
    );
  }
  const register = known.find(({ id }) => id === act.register_id);
  return (
    <>
      to register <b>{register?.name ?? "that is gone"}</b>,{" "}
      {count(Object.keys(act.columns ?? {}).length, "column")}
    </>
  );
}

interface ActProps<A> {
  act: A;
  subjects: readonly Subject[];
  known: readonly Register[];
  onChange: (act: A) => void;
}

function Filing({ act, subjects, known, onChange }: ActProps<File>) {
  const register = known.find(({ id }) => id === act.register_id);
  const columns = act.columns ?? {};
  const set = (column: string, source: string) => {
    const rest = Object.entries(columns).filter(([key]) => key !== column);
    const next = source === LEFT_OUT ? rest : [...rest, [column, source] as const];
    onChange({ ...act, columns: Object.fromEntries(next) });
  };
  return (
    <>
      <span>
        File to register{" "}
        <Picker
          inline
          label="Register"
          options={known.map(({ id, name }) => ({ code: id, label: name }))}
          value={act.register_id}
          onChange={(id) => {
            const next = known.find((one) => one.id === id);
            if (next)
              onChange({
                ...act,
                register_id: id,
                columns: likeNamed(next, subjects),
              });
          }}
        />
      </span>
      <Mapping>
        {register?.columns.map((column) => (
          <Mapping key={column.key} as="div" style={{ display: "contents" }}>
            <span>
              {column.label} {column.type === "text" ? null : <Mono>{column.type}</Mono>}
            </span>
            <Picker
              inline
              label={`Column ${column.label} takes`}
              value={columns[column.key] ?? LEFT_OUT}
              options={[
                { code: LEFT_OUT, label: "left out" },
                ...subjects
                  .filter(({ kind }) => fits(column.type, kind))
                  .map(({ key, label }) => ({ code: key, label })),
              ]}
              onChange={(source) => set(column.key, source)}
            />
          </Mapping>
        ))}
      </Mapping>
    </>
  );
}

function Writing({ act, subjects, onChange }: ActProps<Notice>) {
  const slots = [...subjects.map(({ key }) => key), "entry_number", "questionnaire"];
  return (
    <>
      <Field label="Notice to" value={act.to} onChange={(to) => onChange({ ...act, to })} />
      <Field
        label="Subject"
        value={act.subject}
        onChange={(subject) => onChange({ ...act, subject })}
      />
      <Field
        label="Words"
        lines={6}
        value={act.body}
        onChange={(body) => onChange({ ...act, body })}
      />
      <Slots>
        <Quiet>Put in an answer:</Quiet>
        {slots.map((slot) => (
          <Button
            key={slot}
            weight="word"
            onPress={() => {
              const glue = act.body && !/\s$/.test(act.body) ? " " : "";
              onChange({ ...act, body: `${act.body}${glue}{${slot}}` });
            }}
          >
            <Mono>{`{${slot}}`}</Mono>
          </Button>
        ))}
      </Slots>
    </>
  );
}

interface ActEditorProps extends ActProps<Act> {
  onRemove: () => void;
}

export function ActEditor({ act, onChange, onRemove, ...rest }: ActEditorProps) {
  return (
    <Whole>
      {act.kind === "file" ? (
        <Filing act={act} onChange={onChange} {...rest} />
      ) : (
        <Writing act={act} onChange={onChange} {...rest} />
      )}
      <Button weight="word" onPress={onRemove}>
        {act.kind === "file" ? "Do not file" : "Remove this notice"}
      </Button>
    </Whole>
  );
}

interface NewActProps {
  subjects: readonly Subject[];
  known: readonly Register[];
  canFile: boolean;
  onAdd: (act: Act) => void;
}

function columnType(kind: Subject["kind"]): NonNullable<Column["type"]> {
  if (kind === "scale") return "number";
  return kind === "number" || kind === "yes_no" || kind === "date" ? kind : "text";
}

export function NewAct({ subjects, known, canFile, onAdd }: NewActProps) {
  const [making, setMaking] = useState(false);
  const file = (register: Register) =>
    onAdd({
      kind: "file",
      register_id: register.id,
      columns: likeNamed(register, subjects),
    });
  const begin = known[0];
  return (
    <Slots>
      {canFile && begin ? <Button onPress={() => file(begin)}>File to a register</Button> : null}
      {canFile ? <Button onPress={() => setMaking(true)}>File to a new register</Button> : null}
      <Button
        onPress={() =>
          onAdd({
            kind: "notice",
            to: "",
            subject: "Entry {entry_number}",
            body: "",
          })
        }
      >
        Send a notice
      </Button>
      <NewRegister
        open={making}
        columns={subjects.map(({ key, label, kind }) => ({
          key,
          label: label.slice(0, 80),
          type: columnType(kind),
        }))}
        onClose={() => setMaking(false)}
        onMade={(register) => {
          setMaking(false);
          file(register);
        }}
      />
    </Slots>
  );
}
