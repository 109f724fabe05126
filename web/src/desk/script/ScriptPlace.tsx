/** Script: writing the questionnaire. The track at the left, the script, the bench at the right. */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Keys, Quiet } from "../../ui/text";
import { draft } from "../data";
import { isQuestion, itemsOf, type Doc } from "../document";
import { useMe } from "../shell/me";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { AlsoHere } from "./AlsoHere";
import { Bench } from "./Bench";
import { Clash } from "./Clash";
import { addJotted, type Spot } from "./edits";
import { FinishList } from "./FinishList";
import { follow } from "./follow";
import { DraftNow } from "./part";
import { JotSheet } from "./JotSheet";
import { ScriptActions } from "./ScriptActions";
import { ScriptPage } from "./ScriptPage";
import { Track } from "./Track";
import type { Saving } from "./draftState";
import { useDraft, type Draft, type Joining } from "./useDraft";
import { byPlace, Company, usePresence } from "./usePresence";

const Whole = styled.div`
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr) 348px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Middle = styled.div`
  --gap: clamp(12px, 2vw, 28px);
  padding: 18px var(--gap) 0;
  display: flex;
  flex-direction: column;
  min-width: 0;
`;

const Foot = styled.p`
  position: sticky;
  bottom: 0;
  margin: auto calc(-1 * var(--gap)) 0;
  background: var(--paper);
  border-top: 1px solid var(--line);
  padding: 8px var(--gap);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  color: var(--ink-2);
  @media (max-width: 1080px) {
    > :not([role]) {
      display: none;
    }
  }
`;

const SAVING: Record<Saving, string> = {
  saved: "Saved",
  unsaved: "Not saved yet",
  saving: "Saving",
  away: "Not saved. Trying again.",
  refused: "Not saved",
  clash: "Not saved: somebody else saved",
};

/** For each page, how many questions stand on those before it. */
function askedBefore(doc: Doc): number[] {
  let total = 0;
  return doc.pages.map((page) => {
    const before = total;
    total += itemsOf(page).filter(isQuestion).length;
    return before;
  });
}

/** Alt J from anywhere in the script. */
function useJotKey(open: (now: boolean) => void) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!event.altKey || event.code !== "KeyJ") return;
      event.preventDefault();
      open(true);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [open]);
}

/** Undo and redo from anywhere in the script; inside a field too, so that order is kept. */
function useUndo({ send }: Draft) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      send({ kind: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [send]);
}

function Writing({
  id,
  start,
  writes,
}: {
  id: string;
  start: Schema<"DraftOut">;
  writes: boolean;
}) {
  const [spot, setSpot] = useState<Spot>({ on: "page", page: 0, item: null });
  const go = useCallback<Joining>((before, { doc, renamed }) => {
    setSpot((now) => follow(now, before, doc, renamed));
  }, []);
  const draft = useDraft(id, start, go);
  const others = usePresence(draft, spot);
  const company = useMemo(() => byPlace(others), [others]);
  const [jotting, setJotting] = useState(false);
  const [outline, setOutline] = useState("");
  useUndo(draft);
  useJotKey(setJotting);
  const asked = useMemo(() => askedBefore(draft.doc), [draft.doc]);
  const shared = { draft, spot, onSpot: setSpot };
  return (
    <DraftNow value={draft.doc}>
      <Company value={company}>
        <ScriptActions draft={draft} writes={writes} />
        <Whole inert={!writes}>
          <Track {...shared} />
          <Middle>
            {draft.refusal ? <Strip tone="wrong">{draft.refusal}</Strip> : null}
            {draft.doc.pages.map((page, number) => (
              <ScriptPage
                key={page.key}
                page={page}
                number={number}
                asked={asked[number] ?? 0}
                {...shared}
              />
            ))}
            <FinishList {...shared} />
            <Foot>
              <span>
                <Keys>Enter</Keys> new question
              </span>
              <span>
                <Keys>Alt ↑↓</Keys> move
              </span>
              <span>
                <Keys>Ctrl /</Keys> kind
              </span>
              <span>
                <Keys>Ctrl D</Keys> duplicate
              </span>
              <Button weight="word" onPress={() => setJotting(true)}>
                <Keys>Alt J</Keys> Jot several at once
              </Button>
              <AlsoHere others={others} />
              <Quiet role="status" style={{ marginInlineStart: "auto" }}>
                {SAVING[draft.saving]}
              </Quiet>
            </Foot>
          </Middle>
          <Bench {...shared} />
        </Whole>
        <Clash draft={draft} />
        {jotting && writes ? (
          <JotSheet
            doc={draft.doc}
            text={outline}
            onText={setOutline}
            onClose={() => setJotting(false)}
            onAdd={(pages) => {
              const page = spot.on === "page" ? spot.page : draft.doc.pages.length - 1;
              const last = itemsOf(draft.doc.pages[page] ?? { key: "", title: {} }).length;
              const at = spot.on === "page" && spot.item !== null ? spot.item + 1 : last;
              draft.edit((now) => addJotted(now, page, at, pages));
              setOutline("");
              setJotting(false);
            }}
          />
        ) : null}
      </Company>
    </DraftNow>
  );
}

export function ScriptPlace() {
  const id = usePlaceId();
  const { writes } = useMe();
  const query = useQuery(draft(id));
  return (
    <Loaded query={query}>
      {(start) => <Writing key={id} id={id} start={start} writes={writes} />}
    </Loaded>
  );
}
