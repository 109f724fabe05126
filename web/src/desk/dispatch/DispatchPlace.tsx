/** Dispatch: what happens when an entry arrives, as sentences, with a rehearsal beside them. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { client, ApiError, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { dispatch as rulesOf, edition, registers } from "../data";
import { everyItem, isValued, type Doc } from "../document";
import { subjectOf, type Subject } from "../subjects";
import { useRight } from "../shell/rights";
import { usePlaceId } from "../shell/Place";
import { PlaceActions } from "../shell/PlaceActions";
import { Empty, Loaded, Waiting } from "../shell/states";
import { Rehearsal } from "./Rehearsal";
import { addRule, type Dispatch, type Register, type RuleSpot } from "./rules";
import { RuleRow } from "./RuleRow";

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
  start: Schema<"DispatchOut">;
  doc: Doc;
  known: readonly Register[];
}

/** What rules may name: everything with a value that is not restricted. */
function openSubjects(doc: Doc): Subject[] {
  return everyItem(doc)
    .filter((item) => isValued(item) && !item.restricted)
    .map((item) => subjectOf(doc, item));
}

function useRules(id: string, start: Schema<"DispatchOut">) {
  const queries = useQueryClient();
  const [kept, setKept] = useState(start);
  const [rules, setRules] = useState<Dispatch>(start.dispatch);
  const saving = useMutation({
    mutationFn: (revision: number) =>
      got(
        client.PUT("/api/questionnaires/{id}/dispatch", {
          params: { path: { id } },
          body: { revision, dispatch: rules },
        }),
      ),
    onSuccess: (saved) => {
      setKept(saved);
      queries.setQueryData(rulesOf(id).queryKey, saved);
    },
  });
  const changed = JSON.stringify(rules) !== JSON.stringify(kept.dispatch);
  return { kept, rules, setRules, saving, changed };
}

/** The rules were saved by somebody else: both can be looked at, one is chosen. */
function newer(error: Error | null): Schema<"DispatchBody"> | null {
  if (!(error instanceof ApiError) || error.code !== "stale") return null;
  const { revision, value } = error.params["current"] as {
    revision: number;
    value: Dispatch;
  };
  return { revision, dispatch: value };
}

function Editor({ id, start, doc, known }: EditorProps) {
  const writes = useRight("write");
  const { kept, rules, setRules, saving, changed } = useRules(id, start);
  const [chosen, setChosen] = useState<RuleSpot | null>(null);
  const subjects = openSubjects(doc);
  const faults =
    saving.error instanceof ApiError ? saving.error.faults : changed ? [] : kept.faults;
  const theirs = newer(saving.error);
  const change = (next: Dispatch) => {
    setRules(next);
    if (saving.error) saving.reset();
  };
  const shared = {
    dispatch: rules,
    subjects,
    known,
    chosen,
    faults,
    onChange: change,
  };
  const spots: RuleSpot[] = [...(rules.rules ?? []).keys(), "otherwise"];
  return (
    <Whole>
      {writes ? (
        <PlaceActions>
          <Button
            weight="main"
            isDisabled={!changed || saving.isPending}
            onPress={() => saving.mutate(kept.revision)}
          >
            {changed ? "Apply the changes" : "Applied"}
          </Button>
        </PlaceActions>
      ) : null}
      <Left>
        <h2>When an entry arrives</h2>
        <Quiet>
          Rules are tried in order. The first that files an entry catches it; later ones that file
          are passed over.
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
        <List>
          {spots.map((spot) => (
            <RuleRow
              key={spot === "otherwise" ? spot : `${spot} ${rules.rules?.[spot]?.key}`}
              spot={spot}
              count={kept.counts[spot === "otherwise" ? spot : (rules.rules?.[spot]?.key ?? "")]}
              {...shared}
              onChoose={writes ? setChosen : null}
            />
          ))}
        </List>
        {writes && subjects.length ? (
          <Button
            weight="word"
            onPress={() => {
              change(addRule(rules));
              setChosen(rules.rules?.length ?? 0);
            }}
          >
            Add a rule
          </Button>
        ) : null}
      </Left>
      <Rehearsal id={id} rules={rules} known={known} doc={doc} />
    </Whole>
  );
}

export function DispatchPlace() {
  const id = usePlaceId();
  const rules = useQuery(rulesOf(id));
  const published = useQuery(edition(id));
  const known = useQuery(registers);
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
        published.data && known.data ? (
          <Editor key={id} id={id} start={start} doc={published.data.document} known={known.data} />
        ) : (
          <Waiting />
        )
      }
    </Loaded>
  );
}
