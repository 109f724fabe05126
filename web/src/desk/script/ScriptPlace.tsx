/** Script: writing the questionnaire. The track at the left, the script, the bench at the right. */
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import styled from "styled-components";

import { Strip } from "../../ui/Strip";
import { Tools } from "../condition/tools";
import { isQuestion, itemsOf, type Doc } from "../document";
import { Bench } from "../bench/Bench";
import { Clash } from "../draft/Clash";
import type { Spot } from "../draft/edits";
import { FinishList } from "./FinishList";
import { FrontPart } from "./FrontPart";
import { follow } from "../draft/follow";
import { DraftNow, WORDING } from "../draft/part";
import { ScriptActions } from "./ScriptActions";
import { ScriptFoot } from "./ScriptFoot";
import { ScriptPage } from "./ScriptPage";
import { ScriptSheets, useOpen } from "../sheets/ScriptSheets";
import { Track } from "./Track";
import { paneWidth, type Width } from "../trying/Tried";
import { TryPane } from "../trying/TryPane";
import type { Joining } from "../draft/useDraft";
import { byPlace, Company, usePresence } from "../draft/usePresence";
import { useWriting } from "../bench/useWriting";
import { WithDraft, type WritingProps } from "../draft/WithDraft";

const Whole = styled.div<{ $track: number; $beside: number }>`
  display: grid;
  grid-template-columns:
    ${({ $track }) => $track}px minmax(0, 1fr)
    ${({ $beside }) => $beside}px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** How wide the track and the bench are, in pixels. */
const TRACK = 210;
const BENCH = 348;

const Middle = styled.div`
  --gap: clamp(12px, 2vw, 28px);
  padding: 18px var(--gap) 0;
  display: flex;
  flex-direction: column;
  min-width: 0;
`;

/** For each page, how many questions stand on those before it. */
function askedBefore(doc: Doc): number[] {
  let total = 0;
  return doc.pages.map((page) => {
    const before = total;
    total += itemsOf(page).filter(isQuestion).length;
    return before;
  });
}

function Writing(props: WritingProps) {
  const { writes } = props;
  const [spot, setSpot] = useState<Spot>({ on: "page", page: 0, item: null });
  const go = useCallback<Joining>((before, { doc, renamed }) => {
    setSpot((now) => follow(now, before, doc, renamed));
  }, []);
  const { draft, tools } = useWriting(props, go);
  const others = usePresence(draft, spot);
  const company = useMemo(() => byPlace(others), [others]);
  const [open, setOpen] = useOpen();
  const [trying, setTrying] = useState<Width | null>(null);
  const [link, setLink] = useState("");
  const tryIt = useCallback(() => setTrying((now) => (now ? null : "phone")), []);
  const asked = useMemo(() => askedBefore(draft.doc), [draft.doc]);
  const shared = useMemo(() => ({ draft, spot, onSpot: setSpot }), [draft, spot]);
  const late = useDeferredValue(shared);
  // While words are typed, what stands beside them is drawn when there is time.
  const beside = draft.step.startsWith(WORDING) ? late : shared;
  return (
    <DraftNow value={draft.doc}>
      <Tools value={tools}>
        <Company value={company}>
          <ScriptActions draft={beside.draft} writes={writes} onTry={tryIt} />
          <Whole
            inert={!writes}
            $track={trying === "desk" ? 0 : TRACK}
            $beside={trying ? paneWidth(trying) : BENCH}
          >
            {trying === "desk" ? <span /> : <Track {...beside} />}
            <Middle data-region="script">
              {draft.refusal ? <Strip tone="wrong">{draft.refusal}</Strip> : null}
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
            {trying ? (
              <TryPane
                {...shared}
                width={trying}
                onWidth={setTrying}
                link={link}
                onLink={setLink}
                onClose={() => setTrying(null)}
              />
            ) : (
              <Bench {...beside} />
            )}
          </Whole>
          <Clash draft={draft} />
          {writes ? <ScriptSheets {...shared} open={open} onOpen={setOpen} onTry={tryIt} /> : null}
        </Company>
      </Tools>
    </DraftNow>
  );
}

export function ScriptPlace() {
  return <WithDraft>{(props) => <Writing key={props.id} {...props} />}</WithDraft>;
}
