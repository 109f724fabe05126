/** A condition as sentences whose words are changed in place, in groups where it needs them. */
import { useContext, useState, type ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import type { Condition } from "../document";
import type { Subject } from "../subjects";
import { asCondition, asGroup, BLANK, isGroup, type Group, type Part } from "./edit";
import { OneComparison, type Within } from "./OneComparison";
import { copied, copy, Tools } from "./tools";
import { Operand, Sentence } from "./Sentence";

interface ConditionEditorProps {
  condition: Condition | null | undefined;
  subjects: readonly Subject[];
  onChange: (condition: Condition | null) => void;
  /** What is said where there is no condition. */
  none: string;
}

const Stack = styled.div`
  display: grid;
  gap: 6px;
  justify-items: start;
  min-width: 0;
`;

const Inner = styled(Stack)`
  border-inline-start: 3px solid var(--accent-soft);
  padding-inline-start: 10px;
`;

const JOINS = [
  { code: "all", label: "and" },
  { code: "any", label: "or" },
];

const SENSES = [
  { code: "all", label: "all of these hold" },
  { code: "any", label: "any of these holds" },
  { code: "not any", label: "none of these holds" },
  { code: "not all", label: "not all of these hold" },
];

interface GroupProps {
  group: Group;
  subjects: readonly Subject[];
  onChange: (group: Group) => void;
  /** Whether it is the whole condition. */
  whole: boolean;
  /** What else can be done with it, behind the buttons that add to it. */
  more?: ReactNode;
}

/** What "any entry where" asks of each entry: an editor inside of the editor. */
const where: Within = (condition, subjects, onChange) => (
  <Inner>
    <Parts
      whole
      group={asGroup(condition)}
      subjects={subjects}
      onChange={(next) => onChange(asCondition(next))}
    />
  </Inner>
);

function Parts({ group, subjects, onChange, whole, more }: GroupProps) {
  const set = (parts: readonly Part[]) => onChange({ ...group, parts });
  const at = (position: number, next: Part) =>
    set(group.parts.map((one, other) => (other === position ? next : one)));
  const drop = (position: number) => set(group.parts.filter((_, other) => other !== position));
  const headed = !whole || group.negated;
  return (
    <>
      {headed ? (
        <Picker
          inline
          label="How many of these hold"
          options={SENSES}
          value={`${group.negated ? "not " : ""}${group.joined}`}
          onChange={(code) =>
            onChange({
              ...group,
              negated: code.startsWith("not"),
              joined: code.endsWith("any") ? "any" : "all",
            })
          }
        />
      ) : null}
      {group.parts.map((part, position) => (
        <Stack key={position}>
          {position && !headed ? (
            <Picker
              inline
              label="Joined by"
              options={JOINS}
              value={group.joined}
              onChange={(joined) => onChange({ ...group, joined: joined as Group["joined"] })}
            />
          ) : null}
          {isGroup(part) ? (
            <Inner>
              <Parts
                whole={false}
                group={part}
                subjects={subjects}
                onChange={(next) => (next.parts.length ? at(position, next) : drop(position))}
              />
              <Button weight="word" onPress={() => drop(position)}>
                Remove this group
              </Button>
            </Inner>
          ) : (
            <OneComparison
              comparison={part}
              subjects={subjects}
              where={where}
              onChange={(next) => at(position, next)}
              onRemove={() => drop(position)}
            />
          )}
        </Stack>
      ))}
      {subjects.length ? (
        <Sentence>
          <Button weight="word" onPress={() => set([...group.parts, BLANK])}>
            {group.parts.length ? "Add a comparison" : "Add a condition"}
          </Button>
          {group.parts.length ? (
            <Button
              weight="word"
              onPress={() =>
                set([...group.parts, { joined: "any", negated: false, parts: [BLANK] }])
              }
            >
              Add a group
            </Button>
          ) : null}
          {more}
        </Sentence>
      ) : null}
    </>
  );
}

/** Copying it, saving it under a name. */
function Keeping({ condition, onChange }: Pick<ConditionEditorProps, "condition" | "onChange">) {
  const tools = useContext(Tools);
  const [name, setName] = useState<string | null>(null);
  const [done, setDone] = useState(false);
  if (!condition || !tools) return null;
  if (name !== null) {
    const save = () => {
      if (name.trim()) onChange(tools.save(name.trim(), condition));
      setName(null);
    };
    return (
      <>
        <Operand
          autoFocus
          aria-label="Name of the condition"
          placeholder="a name"
          value={name}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") save();
            if (event.key === "Escape") setName(null);
          }}
        />
        <Button onPress={save}>Save it</Button>
      </>
    );
  }
  const used = condition.op === "saved" ? condition.name : "";
  const meant = tools.saved.find(({ key }) => key === used)?.when;
  return (
    <>
      <Button
        weight="word"
        onPress={() => {
          copy(condition);
          setDone(true);
        }}
      >
        {done ? "Copied" : "Copy"}
      </Button>
      {meant ? (
        <Button weight="word" onPress={() => onChange(meant)}>
          Say it in full
        </Button>
      ) : used ? null : (
        <Button weight="word" onPress={() => setName("")}>
          Save under a name
        </Button>
      )}
    </>
  );
}

export function ConditionEditor({ condition, subjects, onChange, none }: ConditionEditorProps) {
  const tools = useContext(Tools);
  const group = asGroup(condition);
  const pasted = condition ? null : copied();
  const saved = condition ? [] : (tools?.saved ?? []);
  return (
    <Stack>
      {condition ? null : <span>{none}</span>}
      <Parts
        whole
        group={group}
        subjects={subjects}
        onChange={(next) => onChange(asCondition(next))}
        more={<Keeping key={condition?.op ?? ""} condition={condition} onChange={onChange} />}
      />
      {pasted && tools ? (
        <Button weight="word" onPress={() => onChange(pasted)}>
          Paste the copied condition
        </Button>
      ) : null}
      {saved.length ? (
        <Picker
          inline
          label="A saved condition"
          placeholder="or a saved one"
          options={saved.map(({ key, name }) => ({ code: key, label: name || key }))}
          value={null}
          onChange={(key) => onChange({ op: "saved", name: key })}
        />
      ) : null}
    </Stack>
  );
}
