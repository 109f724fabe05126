/** Script: writing the questionnaire. The track at the left, the script, the bench at the right. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Keys, Quiet } from "../../ui/text";
import { draft, edition, questionnaire } from "../data";
import { useMe } from "../shell/me";
import { usePlaceId } from "../shell/Place";
import { PlaceActions } from "../shell/PlaceActions";
import { Loaded } from "../shell/states";
import { Bench } from "./Bench";
import { Clash } from "./Clash";
import type { Spot } from "./edits";
import { FinishList } from "./FinishList";
import { ScriptPage } from "./ScriptPage";
import { Track } from "./Track";
import type { Saving } from "./draftState";
import { useDraft, type Draft } from "./useDraft";

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

function usePublish(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (revision: number) =>
      got(
        client.POST("/api/questionnaires/{id}/editions", {
          params: { path: { id } },
          body: { revision },
        }),
      ),
    onSuccess: (published) => {
      queries.setQueryData(edition(id).queryKey, published);
      return queries.invalidateQueries(questionnaire(id));
    },
  });
}

function Publish({ id, draft: { saving, faults, revision } }: { id: string; draft: Draft }) {
  const publishing = usePublish(id);
  const found = useQuery(questionnaire(id)).data;
  const changed = found?.changed ?? true;
  const ready = saving === "saved" && faults.length === 0 && changed;
  return (
    <PlaceActions>
      <Button
        weight="main"
        isDisabled={!ready || publishing.isPending}
        onPress={() => publishing.mutate(revision)}
      >
        {changed ? `Publish edition ${(found?.edition ?? 0) + 1}` : "Published"}
      </Button>
      {publishing.error ? <Strip tone="wrong">{publishing.error.message}</Strip> : null}
    </PlaceActions>
  );
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
  const draft = useDraft(id, start);
  const [spot, setSpot] = useState<Spot>({ on: "page", page: 0, item: null });
  useUndo(draft);
  const shared = { draft, spot, onSpot: setSpot };
  return (
    <>
      {writes ? <Publish id={id} draft={draft} /> : null}
      <Whole inert={!writes}>
        <Track {...shared} />
        <Middle>
          {draft.refusal ? <Strip tone="wrong">{draft.refusal}</Strip> : null}
          {draft.doc.pages.map((page, number) => (
            <ScriptPage key={page.key} page={page} number={number} {...shared} />
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
              <Keys>Ctrl Z</Keys> undo
            </span>
            <Quiet role="status" style={{ marginInlineStart: "auto" }}>
              {SAVING[draft.saving]}
            </Quiet>
          </Foot>
        </Middle>
        <Bench {...shared} />
      </Whole>
      <Clash draft={draft} />
    </>
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
