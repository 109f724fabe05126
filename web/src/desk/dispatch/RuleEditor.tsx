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
import { choices } from "./subjects";
import {
  actsOf,
  catches,
  duplicateRule,
  moveRule,
  placeOf,
  removeRule,
  ruleAt,
  rulesIn,
  statusOfRule,
  withActs,
  withRule,
  type Act,
  type Dispatch,
  type EachSpot,
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

type EachProps = RuleEditorProps & { spot: EachSpot };

function RuleTools({ spot, dispatch, onChange, onChoose }: EachProps) {
  const { set, at } = placeOf(spot);
  return (
    <Buttons>
      <Button isDisabled={at === 0} onPress={() => onChange(moveRule(dispatch, spot, -1))}>
        Move up
      </Button>
      <Button
        isDisabled={at + 1 === rulesIn(dispatch, set).length}
        onPress={() => onChange(moveRule(dispatch, spot, 1))}
      >
        Move down
      </Button>
      <Button onPress={() => onChange(duplicateRule(dispatch, spot))}>Duplicate</Button>
      <Button
        onPress={() => {
          onChange(removeRule(dispatch, spot));
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

/** The status on whose being reached a rule acts. */
function Reached({ spot, dispatch, around, onChange }: EachProps) {
  const status = statusOfRule(ruleAt(dispatch, spot));
  if (status === undefined) return null;
  const options = choices(around.statuses);
  return (
    <Line>
      When an entry reaches
      <Picker
        inline
        label="The status that is reached"
        options={options}
        value={status || null}
        onChange={(next) =>
          onChange(withRule(dispatch, spot, (rule) => ({ ...rule, status: next })))
        }
      />
    </Line>
  );
}

function Nature({ spot, dispatch, onChange }: EachProps) {
  const rule = ruleAt(dispatch, spot);
  if (!rule) return null;
  const set = (change: Partial<Rule>) =>
    onChange(withRule(dispatch, spot, (one) => ({ ...one, ...change })));
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
      {spot === "otherwise" ? null : <Reached {...props} spot={spot} />}
      {spot === "otherwise" ? null : (
        <ConditionEditor
          condition={ruleAt(dispatch, spot)?.when ?? null}
          subjects={around.subjects}
          none={
            spot.startsWith("on_status")
              ? "It holds for each that does."
              : "It holds for every entry."
          }
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
          <Nature {...props} spot={spot} />
          <RuleTools {...props} spot={spot} />
        </>
      )}
    </Edit>
  );
}
