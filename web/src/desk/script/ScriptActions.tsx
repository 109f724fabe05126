/** What can be done with the draft as a whole: editions, trying it, publishing it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { memo, useDeferredValue, useMemo, useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { edition, editions, questionnaire } from "../data";
import { PlaceActions } from "../shell/PlaceActions";
import { left } from "../translate/lines";
import { TranslateSheet } from "../translate/TranslateSheet";
import { Changes } from "../sheets/Changes";
import { EditionsSheet } from "../sheets/EditionsSheet";
import { MoreSheet } from "../sheets/MoreSheet";
import type { Draft } from "../draft/useDraft";

function usePublish(id: string, onDone: () => void) {
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
      void queries.invalidateQueries(editions(id));
      onDone();
      return queries.invalidateQueries(questionnaire(id));
    },
  });
}

interface PublishSheetProps {
  draft: Draft;
  next: number;
  onClose: () => void;
}

function PublishSheet({ draft, next, onClose }: PublishSheetProps) {
  const publishing = usePublish(draft.id, onClose);
  return (
    <Sheet title={`Publish edition ${next}`} open onClose={onClose} width="wide">
      {publishing.error ? <Strip tone="wrong">{publishing.error.message}</Strip> : null}
      <p>
        {next > 1
          ? `What changed since edition ${next - 1}. People who are answering now finish on the edition they began.`
          : "From now on people can answer it once the gate is open."}
      </p>
      <Changes id={draft.id} number={null} />
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button
          weight="main"
          isDisabled={publishing.isPending || draft.saving !== "saved"}
          onPress={() => publishing.mutate(draft.revision)}
        >
          Publish it
        </Button>
      </Actions>
    </Sheet>
  );
}

interface ScriptActionsProps {
  draft: Draft;
  onTry: () => void;
}

export const ScriptActions = memo(function ScriptActions({ draft, onTry }: ScriptActionsProps) {
  const { id, saving, faults } = draft;
  const doc = useDeferredValue(draft.doc);
  const untranslated = useMemo(() => left(doc), [doc]);
  const [open, setOpen] = useState<"publish" | "editions" | "more" | "languages" | null>(null);
  const found = useQuery(questionnaire(id)).data;
  const changed = found?.changed ?? true;
  const next = (found?.edition ?? 0) + 1;
  const ready = saving === "saved" && faults.length === 0 && changed;
  const close = () => setOpen(null);
  return (
    <PlaceActions>
      <Button onPress={() => setOpen("more")}>More</Button>
      <Button onPress={() => setOpen("languages")}>
        {untranslated ? `Languages (${untranslated})` : "Languages"}
      </Button>
      <Button onPress={onTry}>Try it</Button>
      <Button weight="main" isDisabled={!ready} onPress={() => setOpen("publish")}>
        {changed ? `Publish edition ${next}` : "Published"}
      </Button>
      {open === "languages" ? <TranslateSheet draft={draft} onClose={close} /> : null}
      {open === "more" ? (
        <MoreSheet
          id={id}
          writes
          onClose={close}
          onEditions={next > 1 ? () => setOpen("editions") : null}
        />
      ) : null}
      {open === "publish" ? <PublishSheet draft={draft} next={next} onClose={close} /> : null}
      {open === "editions" ? (
        <EditionsSheet
          id={id}
          onClose={close}
          onRestore={(document) => {
            draft.edit(document);
            close();
          }}
        />
      ) : null}
    </PlaceActions>
  );
});
