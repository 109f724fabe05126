/** Script: writing the questionnaire. The track at the left, the script, the bench at the right. */
import { useCallback, useDeferredValue, useMemo, useState } from "react";

import { Strip } from "../../ui/Strip";
import { Tools } from "../condition/tools";
import { Bench } from "../bench/Bench";
import { Clash } from "../draft/Clash";
import type { Spot } from "../draft/edits";
import { FinishList } from "./FinishList";
import { BENCH, Middle, TRACK, Whole } from "./frame";
import { FrontPart } from "./FrontPart";
import { fieldAt, follow } from "../draft/follow";
import { useFirstLine, useInSight } from "./useFields";
import { DraftNow, WORDING } from "../draft/part";
import { ScriptActions } from "./ScriptActions";
import { ScriptFoot } from "./ScriptFoot";
import { ScriptPage } from "./ScriptPage";
import { NextStep } from "./NextStep";
import { askedBefore } from "../reading/ScriptToRead";
import { ScriptReading } from "./ScriptReading";
import { ScriptSheets, useOpen } from "../sheets/ScriptSheets";
import { Track } from "./Track";
import { paneWidth } from "../trying/Tried";
import { TryPane } from "../trying/TryPane";
import { useTrying } from "../trying/useTrying";
import type { Joining } from "../draft/useDraft";
import { byPlace, Presences, usePresence } from "../draft/usePresence";
import { useWriting } from "../bench/useWriting";
import { WithDraft, type WritingProps } from "../draft/WithDraft";

function Writing(props: WritingProps) {
  const [spot, setSpot] = useState<Spot>({ on: "page", page: 0, item: null });
  const go = useCallback<Joining>((before, { doc, renamed }) => {
    setSpot((now) => follow(now, before, doc, renamed));
  }, []);
  const { draft, tools } = useWriting(props, go);
  const others = usePresence(draft, spot);
  const company = useMemo(() => byPlace(others), [others]);
  const [open, setOpen] = useOpen();
  const trying = useTrying();
  useFirstLine(props.start.document);
  useInSight(fieldAt(draft.doc, spot), trying.width);
  const asked = useMemo(() => askedBefore(draft.doc), [draft.doc]);
  const shared = useMemo(() => ({ draft, spot, onSpot: setSpot }), [draft, spot]);
  const late = useDeferredValue(shared);
  // While words are typed, what stands beside them is drawn when there is time.
  const beside = draft.step.startsWith(WORDING) ? late : shared;
  return (
    <DraftNow value={draft.doc}>
      <Tools value={tools}>
        <Presences value={company}>
          <ScriptActions draft={beside.draft} onTry={trying.toggle} />
          <Whole
            $track={trying.width === "desk" ? 0 : TRACK}
            $beside={trying.width ? paneWidth(trying.width) : BENCH}
          >
            {trying.width === "desk" ? (
              <span />
            ) : (
              <Track doc={beside.draft.doc} spot={beside.spot} onSpot={setSpot} edit={draft.edit} />
            )}
            <Middle data-region="script">
              {draft.refusal ? <Strip tone="wrong">{draft.refusal}</Strip> : null}
              <NextStep id={draft.id} />
              <FrontPart {...beside} />
              {draft.doc.pages.map((page, number) => (
                <ScriptPage
                  key={page.key}
                  page={page}
                  number={number}
                  asked={asked[number] ?? 0}
                  {...shared}
                />
              ))}
              <FinishList {...beside} />
              <ScriptFoot others={others} saving={draft.saving} onOpen={setOpen} />
            </Middle>
            {trying.pane ? <TryPane {...shared} {...trying.pane} /> : <Bench {...beside} />}
          </Whole>
          <Clash draft={draft} />
          <ScriptSheets {...shared} open={open} onOpen={setOpen} onTry={trying.toggle} />
        </Presences>
      </Tools>
    </DraftNow>
  );
}

export function ScriptPlace() {
  return (
    <WithDraft>
      {(props) =>
        props.writes ? (
          <Writing key={props.id} {...props} />
        ) : (
          <ScriptReading key={props.id} {...props} />
        )
      }
    </WithDraft>
  );
}
