/** One rule: as a sentence, and under edit once it is chosen. */
import { Fragment } from "react";
import styled from "styled-components";

import type { Fault } from "../../client/client";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { ConditionEditor } from "../condition/ConditionEditor";
import { BLANK } from "../condition/edit";
import { sentence } from "../condition/words";
import type { Subject } from "../subjects";
import { ActEditor, actWords, NewAct } from "./ActEditor";
import {
  actsOf,
  duplicateRule,
  moveRule,
  removeRule,
  withActs,
  withRule,
  type Act,
  type Dispatch,
  type Register,
  type RuleSpot,
} from "./rules";

const Row = styled.li<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto;
  gap: 4px 6px;
  padding: 11px 12px 11px 8px;
  border-top: 1px solid var(--line);
  border-inline-start: 4px solid ${({ $chosen }) => ($chosen ? "var(--accent)" : "transparent")};
  background: ${({ $chosen }) => ($chosen ? "var(--paper)" : "none")};
  margin-inline: -12px;
`;

const Number = styled.span`
  font: 600 15px var(--head);
  color: var(--ink-3);
`;

const Line = styled.button`
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

const Wrong = styled.p`
  color: var(--rust);
  font-weight: 600;
  margin-top: 6px;
`;

export interface RuleRowProps {
  spot: RuleSpot;
  dispatch: Dispatch;
  subjects: readonly Subject[];
  known: readonly Register[];
  chosen: RuleSpot | null;
  faults: readonly Fault[];
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

function Editing(props: RuleRowProps) {
  const { spot, dispatch, subjects, known, onChange } = props;
  const acts = actsOf(dispatch, spot);
  const set = (next: Act[]) => onChange(withActs(dispatch, spot, next));
  return (
    <Edit>
      {spot === "otherwise" ? null : (
        <ConditionEditor
          condition={dispatch.rules?.[spot]?.when}
          subjects={subjects}
          none=""
          onChange={(when) =>
            onChange(withRule(dispatch, spot, (rule) => ({ ...rule, when: when ?? BLANK })))
          }
        />
      )}
      {acts.map((act, at) => (
        <ActEditor
          key={at}
          act={act}
          subjects={subjects}
          known={known}
          onChange={(next) => set(acts.map((one, other) => (other === at ? next : one)))}
          onRemove={() => set(acts.filter((_, other) => other !== at))}
        />
      ))}
      <NewAct
        subjects={subjects}
        known={known}
        canFile={!acts.some(({ kind }) => kind === "file")}
        onAdd={(act) => set([...acts, act])}
      />
      {spot === "otherwise" ? null : <RuleTools {...props} at={spot} />}
    </Edit>
  );
}

export function RuleRow(props: RuleRowProps) {
  const { spot, dispatch, subjects, known, chosen, faults, count, onChoose } = props;
  const rule = spot === "otherwise" ? undefined : dispatch.rules?.[spot];
  const acts = actsOf(dispatch, spot);
  const open = chosen === spot;
  const says = rule ? (
    <>
      When <b>{sentence(rule.when, subjects)}</b>
    </>
  ) : (
    "Otherwise"
  );
  const place = rule ? `rules/${rule.key}` : "otherwise";
  const wrong = faults.filter(({ at }) => at === place || at.startsWith(`${place}/`));
  return (
    <Row $chosen={open}>
      <Number>{spot === "otherwise" ? "" : spot + 1}</Number>
      <div>
        {onChoose ? (
          <Line type="button" aria-expanded={open} onClick={() => onChoose(open ? null : spot)}>
            {says}
          </Line>
        ) : (
          <Line as="p" style={{ cursor: "auto" }}>
            {says}
          </Line>
        )}
        {open ? (
          <Editing {...props} />
        ) : (
          <Does>
            {acts.map((act, at) => (
              <Fragment key={at}>
                <dt>{act.kind === "file" ? "File" : "Notice"}</dt>
                <dd>{actWords(act, known)}</dd>
              </Fragment>
            ))}
          </Does>
        )}
        {!acts.length && !open ? <Quiet>Does nothing</Quiet> : null}
        {wrong.map((fault) => (
          <Wrong key={fault.at + fault.message}>{fault.message}</Wrong>
        ))}
      </div>
      <Quiet>{count ?? 0} so far</Quiet>
    </Row>
  );
}
