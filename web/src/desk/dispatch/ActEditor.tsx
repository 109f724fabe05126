/** What a rule does, each act under edit, and adding another one. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { NewRegister } from "../registers/NewRegister";
import { columnFor } from "../registers/columns";
import { isFact } from "../subjects";
import type { Around, EditorProps } from "./editors";
import { FileEditor } from "./FileEditor";
import { Line } from "./kit";
import { NoticeEditor } from "./NoticeEditor";
import { NEW, SetEditor, settable } from "./SetEditor";
import { emptyNotice, likeNamed, type Act, type Register } from "./rules";

const Whole = styled.div`
  border-inline-start: 2px solid var(--line-2);
  padding-inline-start: 12px;
  display: grid;
  gap: 8px;
`;

const REMOVE = {
  file: "Do not file",
  notice: "Remove this notice",
  call: "Remove this call",
  status: "Do not set a status",
  care: "Leave open who takes care",
  contact: "Do not set the field",
  value: "Do not set the value",
  list: "Do not add to a list",
};

function Editor({ act, onChange, ...rest }: EditorProps<Act>) {
  switch (act.kind) {
    case "file":
      return <FileEditor act={act} onChange={onChange} {...rest} />;
    case "notice":
      return <NoticeEditor act={act} onChange={onChange} {...rest} />;
    case "call":
      return (
        <Line>
          Call
          <Picker
            inline
            label="What is called"
            options={rest.hooks.map(({ id, name, address }) => ({
              code: id,
              label: name,
              detail: address,
            }))}
            value={act.hook_id || null}
            onChange={(hook_id) => onChange({ ...act, hook_id })}
          />
          {rest.hooks.find(({ id }) => id === act.hook_id)?.cleared
            ? "with what is restricted of the entry too, signed"
            : "with what is open of the entry, signed"}
        </Line>
      );
    default:
      return <SetEditor act={act} onChange={onChange} {...rest} />;
  }
}

export function ActEditor({ onRemove, ...props }: EditorProps<Act> & { onRemove: () => void }) {
  return (
    <Whole>
      <Editor {...props} />
      <span>
        <Button weight="word" onPress={onRemove}>
          {REMOVE[props.act.kind]}
        </Button>
      </span>
    </Whole>
  );
}

interface NewActProps {
  around: Around;
  onAdd: (act: Act) => void;
}

export function NewAct({ around, onAdd }: NewActProps) {
  const [making, setMaking] = useState(false);
  const { subjects, known, hooks } = around;
  const setting = settable(around);
  const file = (register: Register) =>
    onAdd({
      kind: "file",
      register_id: register.id,
      columns: likeNamed(register, subjects),
    });
  return (
    <Line>
      {known.length ? (
        <Picker
          inline
          label="File to a register"
          placeholder="File to a register"
          options={known.map(({ id, name }) => ({ code: id, label: name }))}
          value={null}
          onChange={(id) => {
            const register = known.find((one) => one.id === id);
            if (register) file(register);
          }}
        />
      ) : null}
      <Button onPress={() => setMaking(true)}>File to a new register</Button>
      <Button onPress={() => onAdd(emptyNotice)}>Send a notice</Button>
      {hooks.length ? (
        <Picker
          inline
          label="Call another system"
          placeholder="Call another system"
          options={hooks.map(({ id, name }) => ({ code: id, label: name }))}
          value={null}
          onChange={(hook_id) => onAdd({ kind: "call", hook_id })}
        />
      ) : null}
      {setting.length ? (
        <Picker
          inline
          label="Set something"
          placeholder="Set something"
          options={setting.map((code) => ({ code, label: NEW[code].label }))}
          value={null}
          onChange={(kind) => onAdd(NEW[kind as (typeof setting)[number]].act)}
        />
      ) : null}
      <NewRegister
        open={making}
        columns={subjects
          .filter((subject) => !isFact(subject) && subject.kind !== "roster")
          .map(columnFor)}
        onClose={() => setMaking(false)}
        onMade={(register) => {
          setMaking(false);
          file(register);
        }}
      />
    </Line>
  );
}
