/** Dispatch: what happens when an entry arrives, as sentences, with a rehearsal beside them. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { ApiError, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { dispatch as rulesOf, edition, registers } from "../data";
import type { Doc } from "../document";
import { usePlaceId } from "../shell/Place";
import { PlaceActions } from "../shell/PlaceActions";
import { useRight } from "../shell/rights";
import { Empty, Loaded, Waiting } from "../shell/states";
import { CopyRules } from "./CopyRules";
import type { Around } from "./editors";
import { Hooks, hooksOf } from "./Hooks";
import { Care, Line } from "./kit";
import { Rehearsal } from "./Rehearsal";
import { Replay } from "./Replay";
import { addRule, type Dispatch, type Register, type RuleSpot } from "./rules";
import { RuleRow } from "./RuleRow";
import { Runs, useOpenRuns } from "./Runs";
import { openSubjects, partsOf, rostersOf } from "./subjects";
import { newer, useRules } from "./useRules";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 410px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Left = styled.div`
  padding: 20px clamp(14px, 2.4vw, 30px) 40px;
  min-width: 0;
  h2 {
    font-size: 22px;
  }
`;

const List = styled.ol`
  margin-top: 14px;
  border-bottom: 1px solid var(--line);
`;

interface EditorProps {
  id: string;
  hooks: readonly Schema<"HookOut">[];
  start: Schema<"DispatchOut">;
  doc: Doc;
  known: readonly Register[];
}

function aroundOf({ start, doc, known, hooks }: EditorProps): Around {
  return {
    subjects: openSubjects(doc, start),
    parts: partsOf(doc),
    rosters: rostersOf(doc),
    languages: doc.languages ?? ["en"],
    known,
    teams: start.teams.map(({ code, name }) => ({ code, label: name })),
    hooks,
    statuses: start.statuses,
  };
}

interface RulesProps extends EditorProps {
  around: Around;
  editing: ReturnType<typeof useRules>;
}

function Rules({ id, around, editing }: RulesProps) {
  const writes = useRight("write");
  const { kept, rules, setRules, saving, faults, hints } = editing;
  const [chosen, setChosen] = useState<RuleSpot | null>(null);
  const theirs = newer(saving.error);
  const change = (next: Dispatch) => {
    setRules(next);
    if (saving.error) saving.reset();
  };
  const spots: RuleSpot[] = [...(rules.rules ?? []).keys(), "otherwise"];
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
      {rules.rules?.length ? null : (
        <p>
          No rule yet: entries are kept, nothing is filed and nobody is told.{" "}
          {writes ? "Add a rule, or say what happens with every entry under Otherwise." : ""}
        </p>
      )}
      {hints
        .filter(({ at }) => at === "rules")
        .map(({ message }) => (
          <Care key={message}>{message}</Care>
        ))}
      <List>
        {spots.map((spot) => (
          <RuleRow
            key={spot === "otherwise" ? spot : `${spot} ${rules.rules?.[spot]?.key}`}
            spot={spot}
            count={kept.counts[spot === "otherwise" ? spot : (rules.rules?.[spot]?.key ?? "")]}
            dispatch={rules}
            around={around}
            chosen={chosen}
            faults={faults}
            hints={hints}
            onChange={change}
            onChoose={writes ? setChosen : null}
          />
        ))}
      </List>
      {writes ? (
        <Line>
          <Button
            weight="word"
            onPress={() => {
              change(addRule(rules));
              setChosen(rules.rules?.length ?? 0);
            }}
          >
            Add a rule
          </Button>
          <CopyRules id={id} rules={rules} onCopied={change} />
          <Hooks id={id} />
        </Line>
      ) : null}
    </Left>
  );
}

function Editor(props: EditorProps) {
  const { id, start, doc, known } = props;
  const writes = useRight("write");
  const editing = useRules(id, start);
  const { kept, rules, saving, changed, faults, usable } = editing;
  const { runs } = useSearch({ from: "/q/$id/dispatch" });
  const navigate = useNavigate();
  const show = (next: "open" | "replay") =>
    void navigate({
      to: "/q/$id/dispatch",
      params: { id },
      search: runs === next ? {} : { runs: next },
    });
  const undone = useOpenRuns(id).data?.pages[0]?.counts ?? {};
  const waiting = Object.values(undone).reduce((sum, one) => sum + one, 0);
  return (
    <>
      <PlaceActions>
        <Button onPress={() => show("open")}>
          {runs === "open" ? "Rules" : waiting ? `Not done yet: ${waiting}` : "Not done yet"}
        </Button>
        <Button onPress={() => show("replay")}>{runs === "replay" ? "Rules" : "Replay"}</Button>
        {writes ? (
          <Button
            weight="main"
            isDisabled={!changed || saving.isPending || !usable}
            onPress={() => saving.mutate(kept.revision)}
          >
            {changed ? "Apply the changes" : "Applied"}
          </Button>
        ) : null}
      </PlaceActions>
      {runs === "open" ? (
        <Runs id={id} rules={rules} known={known} hooks={props.hooks} />
      ) : runs === "replay" ? (
        <Replay id={id} around={aroundOf(props)} revision={kept.revision} changed={changed} />
      ) : (
        <Whole>
          <Rules {...props} around={aroundOf(props)} editing={editing} />
          <Rehearsal
            id={id}
            rules={rules}
            known={known}
            doc={doc}
            around={aroundOf(props)}
            faults={faults}
            usable={usable}
            changed={changed}
          />
        </Whole>
      )}
    </>
  );
}

export function DispatchPlace() {
  const id = usePlaceId();
  const rules = useQuery(rulesOf(id));
  const published = useQuery(edition(id));
  const known = useQuery(registers);
  const called = useQuery(hooksOf(id));
  if (published.error instanceof ApiError && published.error.status === 404) {
    return (
      <Empty title="No rules yet">
        <p>
          <Link to="/q/$id/script" params={{ id }}>
            Publish the questionnaire
          </Link>{" "}
          first. Rules then speak of its questions.
        </p>
      </Empty>
    );
  }
  return (
    <Loaded query={rules}>
      {(start) =>
        published.data && known.data && called.data ? (
          <Editor
            key={id}
            id={id}
            start={start}
            doc={published.data.document}
            known={known.data}
            hooks={called.data}
          />
        ) : (
          <Waiting />
        )
      }
    </Loaded>
  );
}
