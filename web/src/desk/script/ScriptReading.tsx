/** The script for those who read it and do not write: nothing in it can be changed. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { draft, questionnaire } from "../data";
import type { Spot } from "../draft/edits";
import type { WritingProps } from "../draft/WithDraft";
import { ScriptToRead } from "../reading/ScriptToRead";
import { EditionsSheet } from "../sheets/EditionsSheet";
import { MoreSheet } from "../sheets/MoreSheet";
import { PlaceActions } from "../shell/PlaceActions";
import { paneWidth } from "../trying/Tried";
import { TryPane } from "../trying/TryPane";
import { useTrying } from "../trying/useTrying";
import { Middle, TRACK, Whole } from "./frame";
import { Track } from "./Track";

/** Milliseconds after which is looked for what others have written. */
const AGAIN = 10_000;

function ReadingActions({ id, onTry }: { id: string; onTry: () => void }) {
  const [open, setOpen] = useState<"more" | "editions" | null>(null);
  const edition = useQuery(questionnaire(id)).data?.edition;
  const close = () => setOpen(null);
  return (
    <PlaceActions>
      <Button onPress={() => setOpen("more")}>More</Button>
      <Button onPress={onTry}>Try it</Button>
      {open === "more" ? (
        <MoreSheet
          id={id}
          writes={false}
          onClose={close}
          onEditions={edition ? () => setOpen("editions") : null}
        />
      ) : null}
      {open === "editions" ? <EditionsSheet id={id} onClose={close} onRestore={null} /> : null}
    </PlaceActions>
  );
}

export function ScriptReading({ id, start }: WritingProps) {
  const {
    revision,
    document: doc,
    faults,
  } = useQuery({ ...draft(id), refetchInterval: AGAIN }).data ?? start;
  const [spot, setSpot] = useState<Spot>({ on: "page", page: 0, item: null });
  const trying = useTrying();
  const read = { id, revision, doc, faults, saving: "saved" } as const;
  return (
    <>
      <ReadingActions id={id} onTry={trying.toggle} />
      <Whole
        $track={trying.width === "desk" ? 0 : TRACK}
        $beside={trying.width ? paneWidth(trying.width) : 0}
      >
        {trying.width === "desk" ? (
          <span />
        ) : (
          <Track doc={doc} spot={spot} onSpot={setSpot} edit={null} />
        )}
        <Middle data-region="script">
          <ScriptToRead doc={doc} />
        </Middle>
        {trying.pane ? <TryPane draft={read} spot={spot} {...trying.pane} /> : <span />}
      </Whole>
    </>
  );
}
