/** What goes into which column of which register. */
import { Fragment } from "react";
import styled from "styled-components";

import { Picker } from "../../ui/Picker";
import { Toggle } from "../../ui/Toggle";
import { Mono } from "../../ui/text";
import { fits, TYPES } from "../registers/columns";
import type { Subject } from "../subjects";
import type { EditorProps } from "./editors";
import { Line, Stack } from "./kit";
import { likeNamed, type File, type Register, type Source } from "./rules";
import { asChoice, NUMBER_OF_ENTRY, SourceLine } from "./SourceLine";

const Mapping = styled.div`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 5px 14px;
  align-items: start;
  > span {
    padding-top: 3px;
  }
`;

const LEFT_OUT = " ";

type Column = Register["columns"][number];

interface OneColumnProps extends Pick<EditorProps<File>, "parts"> {
  column: Column;
  source: Source | undefined;
  subjects: readonly Subject[];
  onChange: (source: Source | null) => void;
}

function OneColumn({ column, source, subjects, parts, onChange }: OneColumnProps) {
  const written = column.type === "text" || column.type === "long_text" || !column.type;
  return (
    <Fragment>
      <span>
        {column.label} <Mono>{TYPES[column.type ?? "text"]}</Mono>
      </span>
      <SourceLine
        name={`Column ${column.label}`}
        leftOut="left out"
        source={source}
        options={[
          ...subjects.filter((subject) => fits(column.type, subject)).map(asChoice),
          ...(written ? parts : []),
          ...(written || column.type === "entry" ? [NUMBER_OF_ENTRY] : []),
        ]}
        subjects={subjects}
        parts={parts}
        onChange={onChange}
      />
    </Fragment>
  );
}

const NONE = [
  { code: "add", label: "a new row is added" },
  { code: "leave", label: "nothing is done" },
  { code: "ask", label: "somebody has to decide" },
];
const SEVERAL = [
  { code: "ask", label: "somebody has to decide" },
  { code: "first", label: "the oldest is changed" },
  { code: "last", label: "the newest is changed" },
  { code: "all", label: "all are changed" },
  { code: "add", label: "a new row is added" },
  { code: "leave", label: "nothing is done" },
];

const named = ({ key, label }: Column) => ({ code: key, label });

function Matching({ act, register, onChange }: EditorProps<File> & { register: Register }) {
  const { matching } = act;
  const filled = register.columns.filter(({ key }) => act.columns?.[key]);
  if (!matching) return null;
  const free = filled.filter(({ key }) => !matching.columns.includes(key));
  const set = (change: Partial<typeof matching>) =>
    onChange({ ...act, matching: { ...matching, ...change } });
  return (
    <>
      <Line>
        It is the row that is alike in
        {matching.columns.map((key, at) => (
          <Picker
            key={key}
            inline
            label={`Alike in, ${at + 1}`}
            options={[
              ...filled.filter((one) => one.key === key || free.includes(one)).map(named),
              ...(matching.columns.length > 1 ? [{ code: LEFT_OUT, label: "not this one" }] : []),
            ]}
            value={key}
            onChange={(next) =>
              set({
                columns: matching.columns
                  .map((one) => (one === key ? next : one))
                  .filter((one) => one !== LEFT_OUT),
              })
            }
          />
        ))}
        {free.length ? (
          <Picker
            inline
            label="Alike in another column too"
            placeholder="and also"
            options={free.map(named)}
            value={null}
            onChange={(key) => set({ columns: [...matching.columns, key] })}
          />
        ) : null}
      </Line>
      <Line>
        Where there is none,
        <Picker
          inline
          label="Where there is no such row"
          options={NONE}
          value={matching.none ?? "add"}
          onChange={(none) => set({ none: none as "add" })}
        />
        and where there are several,
        <Picker
          inline
          label="Where there are several such rows"
          options={SEVERAL}
          value={matching.several ?? "ask"}
          onChange={(several) => set({ several: several as "ask" })}
        />
      </Line>
    </>
  );
}

/** The restricted questions whose answers are kept beside the row, for cleared eyes. */
function Keeping({
  act,
  register,
  restricted,
  onChange,
}: EditorProps<File> & { register: Register }) {
  const kept = act.kept ?? [];
  if (!register.cleared || !restricted.length) return null;
  return (
    <Line>
      Beside the row, for people with clearance:
      {restricted.map(({ code, label }) => (
        <Toggle
          key={code}
          isSelected={kept.includes(code)}
          onChange={(on) =>
            onChange({ ...act, kept: on ? [...kept, code] : kept.filter((one) => one !== code) })
          }
        >
          {label}
        </Toggle>
      ))}
    </Line>
  );
}

export function FileEditor(props: EditorProps<File>) {
  const { act, subjects, parts, rosters, known, onChange } = props;
  const register = known.find(({ id }) => id === act.register_id);
  const roster = rosters.find(({ code }) => code === act.per);
  const all = roster ? [...roster.inner, ...subjects] : subjects;
  const columns = act.columns ?? {};
  const set = (column: string, source: Source | null) => {
    const rest = Object.entries(columns).filter(([key]) => key !== column);
    const next = source ? [...rest, [column, source] as const] : rest;
    onChange({ ...act, columns: Object.fromEntries(next) });
  };
  const first = register?.columns.find(({ key }) => columns[key])?.key;
  return (
    <Stack>
      <Line>
        File to register
        <Picker
          inline
          label="Register"
          options={known.map(({ id, name }) => ({ code: id, label: name }))}
          value={register ? act.register_id : null}
          onChange={(id) => {
            const next = known.find((one) => one.id === id);
            if (!next) return;
            onChange({ ...act, register_id: id, columns: likeNamed(next, all), matching: null });
          }}
        />
        {rosters.length ? (
          <Picker
            inline
            label="How many rows"
            options={[
              { code: "", label: "one row" },
              ...rosters.map(({ code, label }) => ({ code, label: `a row for each of ${label}` })),
            ]}
            value={act.per ?? ""}
            onChange={(per) => onChange({ ...act, per })}
          />
        ) : null}
        <Picker
          inline
          label="A new row or one that is there"
          options={[
            { code: "add", label: "that is new" },
            { code: "update", label: "or bring one up to date" },
          ]}
          value={act.matching ? "update" : "add"}
          onChange={(how) =>
            onChange({
              ...act,
              matching: how === "add" || !first ? null : { columns: [first], none: "add" },
            })
          }
        />
      </Line>
      {register ? (
        <>
          <Mapping>
            {register.columns.map((column) => (
              <OneColumn
                key={column.key}
                column={column}
                source={columns[column.key]}
                subjects={all}
                parts={parts}
                onChange={(source) => set(column.key, source)}
              />
            ))}
          </Mapping>
          <Matching {...props} register={register} />
          <Keeping {...props} register={register} />
        </>
      ) : null}
    </Stack>
  );
}
