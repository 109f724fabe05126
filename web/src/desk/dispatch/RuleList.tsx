/** The rules in their order, with what was found out about them. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { Findings, type Repair } from "../proof/Findings";
import { Outdated, patched } from "../proof/patch";
import { useRight } from "../shell/rights";
import { CopyRules } from "./CopyRules";
import type { Around } from "./editors";
import { Hooks } from "./Hooks";
import { Line } from "./kit";
import { RoutingState } from "./RoutingState";
import { RuleRow } from "./RuleRow";
import {
  addRule,
  addStatusRule,
  ruleAt,
  rulesIn,
  spotOf,
  type Dispatch,
  type RuleSet,
  type RuleSpot,
} from "./rules";
import type { Example, Routing } from "./useRouting";
import { newer, type useRules } from "./useRules";

const Left = styled.div`
  padding: 20px clamp(14px, 2.4vw, 30px) 40px;
  min-width: 0;
  h2 {
    font-size: 22px;
  }
`;

const Told = styled.div`
  display: grid;
  gap: 10px;
  margin-top: 10px;
  &:empty {
    display: none;
  }
`;

const List = styled.ol`
  margin-top: 14px;
  border-bottom: 1px solid var(--line);
`;

const Reaching = styled.section`
  margin-top: 34px;
`;

interface RulesProps {
  id: string;
  around: Around;
  editing: ReturnType<typeof useRules>;
  routing: Routing;
  onExample: (example: Example | undefined) => void;
}

export function RuleList({ id, around, editing, routing, onExample }: RulesProps) {
  const writes = useRight("write");
  const { kept, rules, setRules, saving, faults, usable } = editing;
  const [outdated, setOutdated] = useState(false);
  const [chosen, setChosen] = useState<RuleSpot | null>(null);
  const theirs = newer(saving.error);
  const change = (next: Dispatch) => {
    setRules(next);
    if (saving.error) saving.reset();
  };
  const repair = ({ changes }: Repair) => {
    try {
      change(patched(rules, changes));
      setOutdated(false);
    } catch (error) {
      if (!(error instanceof Outdated)) throw error;
      setOutdated(true);
    }
  };
  const whole = routing.findings.filter(({ at }) => at === "rules");
  const row = (spot: RuleSpot) => {
    const key = ruleAt(rules, spot)?.key ?? "otherwise";
    return (
      <RuleRow
        key={`${spot} ${key}`}
        spot={spot}
        count={kept.counts[key]}
        dispatch={rules}
        around={around}
        chosen={chosen}
        faults={faults}
        routing={routing}
        onRepair={writes ? repair : null}
        onExample={onExample}
        onChange={change}
        onChoose={writes ? setChosen : null}
      />
    );
  };
  const spots = (set: RuleSet) => rulesIn(rules, set).map((_, at) => spotOf(set, at));
  const hasStatuses = around.statuses.length > 0;
  return (
    <Left>
      <h2>When an entry arrives</h2>
      <Quiet>
        Rules are tried in order. The first that catches an entry is the only one of those; rules
        that act along do so whenever they hold.
      </Quiet>
      {saving.error ? (
        <Strip tone="wrong">
          {saving.error.message}
          {theirs ? (
            <span>
              <Button onPress={() => change(theirs.dispatch)}>Show theirs</Button>{" "}
              <Button onPress={() => saving.mutate(theirs.revision)}>Keep these</Button>
            </span>
          ) : null}
        </Strip>
      ) : null}
      {rules.rules?.length || rules.otherwise?.length ? null : (
        <p>
          No rule yet: entries are kept, nothing is filed and nobody is told.{" "}
          {writes ? "Add a rule, or say what happens with every entry under Otherwise." : ""}
        </p>
      )}
      <Told>
        <RoutingState routing={routing} rules={rules.rules?.length ?? 0} usable={usable !== null} />
        {outdated ? (
          <Strip tone="wrong">This has changed in the meantime. Look again.</Strip>
        ) : null}
        {whole.length ? (
          <Findings
            findings={whole}
            current={routing.current}
            onGo={() => setChosen(null)}
            onRepair={writes ? repair : null}
            onExample={(number) => onExample(routing.example(number))}
          />
        ) : null}
      </Told>
      <List>
        {spots("rules").map(row)}
        {row("otherwise")}
      </List>
      {writes ? (
        <Line>
          <Button
            weight="word"
            onPress={() => {
              change(addRule(rules));
              setChosen(spotOf("rules", rulesIn(rules, "rules").length));
            }}
          >
            Add a rule
          </Button>
          <CopyRules id={id} rules={rules} onCopied={change} />
          <Hooks id={id} />
        </Line>
      ) : null}
      {hasStatuses || rules.on_status?.length ? (
        <Reaching>
          <h2>When an entry reaches a status</h2>
          <Quiet>Tried in the same way, each time that it does.</Quiet>
          <List>{spots("on_status").map(row)}</List>
          {writes ? (
            <Button
              weight="word"
              onPress={() => {
                change(addStatusRule(rules));
                setChosen(spotOf("on_status", rulesIn(rules, "on_status").length));
              }}
            >
              Add a rule for a status
            </Button>
          ) : null}
        </Reaching>
      ) : null}
    </Left>
  );
}
