/** One rule: as a sentence, and under edit once it is chosen. */
import { Fragment } from "react";
import styled from "styled-components";

import type { Fault } from "../../client/client";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { sentence } from "../condition/words";
import { Findings, type Repair } from "../proof/Findings";
import type { Around } from "./editors";
import { Wrong } from "./kit";
import { RuleEditor } from "./RuleEditor";
import {
  actsOf,
  catches,
  placeOf,
  ruleAt,
  statusOfRule,
  type Dispatch,
  type Rule,
  type RuleSpot,
} from "./rules";
import { statusWords } from "./setWords";
import type { Example, Routing } from "./useRouting";
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

export interface RuleRowProps {
  spot: RuleSpot;
  dispatch: Dispatch;
  around: Around;
  chosen: RuleSpot | null;
  faults: readonly Fault[];
  routing: Routing;
  /** Null for those who read only. */
  onRepair: ((repair: Repair) => void) | null;
  onExample: (example: Example | undefined) => void;
  count: number | undefined;
  onChange: (dispatch: Dispatch) => void;
  /** Null for those who read only. */
  onChoose: ((spot: RuleSpot | null) => void) | null;
}

function Sentence({ rule, around }: { rule: Rule | undefined; around: Around }) {
  if (!rule) return "Otherwise";
  const status = statusOfRule(rule);
  if (status !== undefined) {
    return (
      <>
        At <b>{statusWords(status, around) ?? "a status not chosen yet"}</b>
        {rule.when ? (
          <>
            , when <b>{sentence(rule.when, around.subjects)}</b>
          </>
        ) : null}
      </>
    );
  }
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
  const { spot, dispatch, around, chosen, faults, routing, count, onChoose, onExample } = props;
  const rule = ruleAt(dispatch, spot);
  const open = chosen === spot;
  const place = spot === "otherwise" || !rule ? spot : `${placeOf(spot).set}/${rule.key}`;
  const here = ({ at }: { at: string }) => at === place || at.startsWith(`${place}/`);
  const found = routing.findings.filter(here);
  const taken = routing.of(place);
  const says = <Sentence rule={rule} around={around} />;
  return (
    <Row $chosen={open} data-off={rule?.off || undefined}>
      <Number>{spot === "otherwise" ? "" : placeOf(spot).at + 1}</Number>
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
        {open ? <RuleEditor {...props} /> : <Done {...props} />}
        {rule?.note && !open ? <Quiet>{rule.note}</Quiet> : null}
        {faults.filter(here).map((fault) => (
          <Wrong key={fault.at + fault.message}>{fault.message}</Wrong>
        ))}
        {found.length ? (
          <Findings
            findings={found}
            current={routing.current}
            onGo={() => onChoose?.(spot)}
            onRepair={props.onRepair}
            onExample={(number) => onExample(routing.example(number))}
          />
        ) : null}
        {open && taken ? (
          <Button weight="word" onPress={() => onExample(taken)}>
            Rehearse an entry it takes
          </Button>
        ) : null}
      </div>
      <Quiet>{standing(rule, count)}</Quiet>
    </Row>
  );
}
