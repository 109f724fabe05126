/** One rule: as a sentence, and under edit once it is chosen. */
import { Fragment } from "react";
import styled from "styled-components";

import type { Fault } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { Toggle } from "../../ui/Toggle";
import { ConditionEditor } from "../condition/ConditionEditor";
import { sentence } from "../condition/words";
import { ActEditor, NewAct } from "./ActEditor";
import type { Around } from "./editors";
import { Care, Line, Wrong } from "./kit";
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
import { ACTS, actWords } from "./words";

const Row = styled.li<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto;
  gap: 4px 6px;
  padding: 11px 12px 11px 8px;
  border-top: 1px solid var(--line);
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--accent)" : "transparent")};
  background: ${({ $chosen }) => ($chosen ? "var(--paper)" : "none")};
  margin-inline: -12px;
  &[data-off] b,
  &[data-off] dl {
    text-decoration: line-through;
    text-decoration-color: var(--ink-3);
  }
`;

const Number = styled.span`
  font: 600 15px var(--head);
  color: var(--ink-3);
`;

const Says = styled.button`
  display: block;
  width: 100%;
  border: 0;
  background: none;
  padding: 0;
  text-align: start;
  font-size: 15.5px;
  cursor: pointer;
  min-height: 26px;
  b {
    background: var(--accent-soft);
    border-radius: 3px;
    padding: 1px 6px;
  }
`;

const Does = styled.dl`
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  gap: 3px 6px;
  margin-top: 5px;
  dt {
    color: var(--ink-2);
    font-size: 13.5px;
  }
`;

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

export interface RuleRowProps {
  spot: RuleSpot;
  dispatch: Dispatch;
  around: Around;
  chosen: RuleSpot | null;
  faults: readonly Fault[];
  hints: readonly Fault[];
  count: number | undefined;
  onChange: (dispatch: Dispatch) => void;
  /** Null for those who read only. */
  onChoose: ((spot: RuleSpot | null) => void) | null;
}

function RuleTools({ at, dispatch, onChange, onChoose }: { at: number } & RuleRowProps) {
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

function Nature({ at, dispatch, onChange }: { at: number } & RuleRowProps) {
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

function Editing(props: RuleRowProps) {
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

function Sentence({ rule, around }: { rule: Rule | undefined; around: Around }) {
  if (!rule) return "Otherwise";
  return rule.when ? (
    <>
      When <b>{sentence(rule.when, around.subjects)}</b>
    </>
  ) : (
    "For every entry"
  );
}

function Done({ dispatch, spot, around }: RuleRowProps) {
  const acts = actsOf(dispatch, spot);
  if (!acts.length) return <Quiet>Does nothing</Quiet>;
  return (
    <Does>
      {acts.map((act, at) => (
        <Fragment key={at}>
          <dt>{ACTS[act.kind]}</dt>
          <dd>{actWords(act, around)}</dd>
        </Fragment>
      ))}
    </Does>
  );
}

/** What stands at the end of a rule's line. */
function standing(rule: Rule | undefined, count: number | undefined): string {
  const so = `${count ?? 0} so far`;
  if (rule?.off) return `off, ${so}`;
  return rule && !catches(rule) ? `acts along, ${so}` : so;
}

export function RuleRow(props: RuleRowProps) {
  const { spot, dispatch, around, chosen, faults, hints, count, onChoose } = props;
  const rule = ruleAt(dispatch, spot);
  const open = chosen === spot;
  const place = rule ? `rules/${rule.key}` : "otherwise";
  const here = ({ at }: Fault) => at === place || at.startsWith(`${place}/`);
  const says = <Sentence rule={rule} around={around} />;
  return (
    <Row $chosen={open} data-off={rule?.off || undefined}>
      <Number>{spot === "otherwise" ? "" : spot + 1}</Number>
      <div>
        {onChoose ? (
          <Says type="button" aria-expanded={open} onClick={() => onChoose(open ? null : spot)}>
            {says}
          </Says>
        ) : (
          <Says as="p" style={{ cursor: "auto" }}>
            {says}
          </Says>
        )}
        {open ? <Editing {...props} /> : <Done {...props} />}
        {rule?.note && !open ? <Quiet>{rule.note}</Quiet> : null}
        {faults.filter(here).map((fault) => (
          <Wrong key={fault.at + fault.message}>{fault.message}</Wrong>
        ))}
        {hints.filter(here).map((hint) => (
          <Care key={hint.message}>{hint.message}</Care>
        ))}
      </div>
      <Quiet>{standing(rule, count)}</Quiet>
    </Row>
  );
}
