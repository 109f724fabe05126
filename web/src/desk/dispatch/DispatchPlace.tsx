/** Dispatch: what happens when an entry arrives, as sentences, with a rehearsal beside them. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { ApiError, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { dispatch as rulesOf, edition, registers } from "../data";
import type { Doc } from "../document";
import { FIRST } from "../handling";
import { usePlaceId } from "../shell/Place";
import { PlaceActions } from "../shell/PlaceActions";
import { useRight } from "../shell/rights";
import { Empty, Loaded, Waiting } from "../shell/states";
import type { Around } from "./editors";
import { hooksOf } from "./Hooks";
import { Rehearsal, type RehearsedWith } from "./rehearsing/Rehearsal";
import { Replay } from "./rehearsing/Replay";
import type { Register } from "./rules";
import { RuleList } from "./RuleList";
import { Runs, useOpenRuns } from "./Runs";
import { carriedOf, choices, openSubjects, partsOf, restrictedOf, rostersOf } from "./subjects";
import { useRouting } from "./useRouting";
import { useRules } from "./useRules";

const Whole = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 410px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
  }
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
    teams: choices(start.teams),
    hooks,
    statuses: start.statuses.filter(({ code }) => code !== FIRST),
    people: choices(start.people),
    contactFields: choices(start.contact_fields),
    lists: choices(start.lists),
    carried: carriedOf(doc),
    restricted: restrictedOf(doc),
  };
}

function Editor(props: EditorProps) {
  const { id, start, doc, known } = props;
  const writes = useRight("write");
  const editing = useRules(id, start);
  const { kept, rules, saving, changed, faults, hints, usable } = editing;
  const routing = useRouting(id, usable, hints);
  const [subject, setSubject] = useState<RehearsedWith>({ kind: "entry", number: null });
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
            isDisabled={!changed || saving.isPending || faults.length > 0}
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
          <RuleList
            id={id}
            around={aroundOf(props)}
            editing={editing}
            routing={routing}
            onExample={(example) => {
              if (example) setSubject({ kind: "example", example });
            }}
          />
          <Rehearsal
            id={id}
            rules={rules}
            known={known}
            doc={doc}
            around={aroundOf(props)}
            faults={faults}
            usable={usable}
            changed={changed}
            subject={subject}
            onSubject={setSubject}
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
