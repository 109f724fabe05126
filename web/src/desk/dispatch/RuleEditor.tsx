/** One rule under edit: its condition, its acts, and what kind of rule it is. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { Toggle } from "../../ui/Toggle";
import { ConditionEditor } from "../condition/ConditionEditor";
import { ActEditor, NewAct } from "./ActEditor";
import type { Around } from "./editors";
import { Line } from "./kit";
import {
  actsOf,
  catches,
  duplicateRule,
  moveRule,
  removeRule,
  ruleAt,
  withActs,
  withRule,
  type Act,
  type Dispatch,
  type Rule,
  type RuleSpot,
} from "./rules";

const Edit = styled.div`
  display: grid;
  gap: 12px;
  margin-top: 8px;
`;

const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
`;

interface RuleEditorProps {
  spot: RuleSpot;
  dispatch: Dispatch;
  around: Around;
  onChange: (dispatch: Dispatch) => void;
  onChoose: ((spot: RuleSpot | null) => void) | null;
}

function RuleTools({ at, dispatch, onChange, onChoose }: { at: number } & RuleEditorProps) {
  return (
    <Buttons>
      <Button isDisabled={at === 0} onPress={() => onChange(moveRule(dispatch, at, -1))}>
        Move up
      </Button>
      <Button
        isDisabled={at + 1 === dispatch.rules?.length}
        onPress={() => onChange(moveRule(dispatch, at, 1))}
      >
        Move down
      </Button>
      <Button onPress={() => onChange(duplicateRule(dispatch, at))}>Duplicate</Button>
      <Button
        onPress={() => {
          onChange(removeRule(dispatch, at));
          onChoose?.(null);
        }}
      >
        Delete
      </Button>
    </Buttons>
  );
}

const HOW = [
  { code: "catches", label: "catches the entry" },
  { code: "acts", label: "acts whenever it holds" },
];

function Nature({ at, dispatch, onChange }: { at: number } & RuleEditorProps) {
  const rule = ruleAt(dispatch, at);
  if (!rule) return null;
  const set = (change: Partial<Rule>) =>
    onChange(withRule(dispatch, at, (one) => ({ ...one, ...change })));
  return (
    <>
      <Line>
        This rule
        <Picker
          inline
          label="What this rule is"
          options={HOW}
          value={catches(rule) ? "catches" : "acts"}
          onChange={(how) => set({ catches: how === "catches" })}
        />
        <Quiet>
          {catches(rule)
            ? "Later rules that catch are passed over."
            : "It keeps no other rule from acting."}
        </Quiet>
      </Line>
      <Field
        label="Note for colleagues"
        value={rule.note ?? ""}
        maxLength={500}
        onChange={(note) => set({ note })}
      />
      <Toggle isSelected={rule.off ?? false} onChange={(off) => set({ off })}>
        Switched off
      </Toggle>
    </>
  );
}

export function RuleEditor(props: RuleEditorProps) {
  const { spot, dispatch, around, onChange } = props;
  const acts = actsOf(dispatch, spot);
  const set = (next: Act[]) => onChange(withActs(dispatch, spot, next));
  return (
    <Edit>
      {spot === "otherwise" ? null : (
        <ConditionEditor
          condition={ruleAt(dispatch, spot)?.when ?? null}
          subjects={around.subjects}
          none="It holds for every entry."
          onChange={(when) =>
            onChange(withRule(dispatch, spot, (rule) => ({ ...rule, when: when ?? null })))
          }
        />
      )}
      {acts.map((act, at) => (
        <ActEditor
          key={at}
          act={act}
          {...around}
          onChange={(next) => set(acts.map((one, other) => (other === at ? next : one)))}
          onRemove={() => set(acts.filter((_, other) => other !== at))}
        />
      ))}
      <NewAct around={around} onAdd={(act) => set([...acts, act])} />
      {spot === "otherwise" ? null : (
        <>
          <Nature {...props} at={spot} />
          <RuleTools {...props} at={spot} />
        </>
      )}
    </Edit>
  );
}
