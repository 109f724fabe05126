/** Script: writing the questionnaire. The track at the left, the script, the bench at the right. */
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Keys, Quiet } from "../../ui/text";
import { Tools } from "../condition/tools";
import { isQuestion, itemsOf, type Doc } from "../document";
import { AlsoHere } from "../draft/AlsoHere";
import { Bench } from "../bench/Bench";
import { Clash } from "../draft/Clash";
import type { Spot } from "../draft/edits";
import { FinishList } from "./FinishList";
import { FrontPart } from "./FrontPart";
import { follow } from "../draft/follow";
import { DraftNow, WORDING } from "../draft/part";
import { SAVING } from "../draft/saving";
import { ScriptActions } from "./ScriptActions";
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
  const tryIt = () => setTrying((now) => (now ? null : "phone"));
  const asked = useMemo(() => askedBefore(draft.doc), [draft.doc]);
  const shared = { draft, spot, onSpot: setSpot };
  const late = useDeferredValue(shared);
  return (
    <DraftNow value={draft.doc}>
      <Tools value={tools}>
        <Company value={company}>
          <ScriptActions draft={draft} writes={writes} onTry={tryIt} />
          <Whole
            inert={!writes}
            $track={trying === "desk" ? 0 : TRACK}
            $beside={trying ? paneWidth(trying) : BENCH}
          >
            {trying === "desk" ? <span /> : <Track {...shared} />}
            <Middle data-region="script">
              {draft.refusal ? <Strip tone="wrong">{draft.refusal}</Strip> : null}
              <FrontPart {...shared} />
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
                <span>
                  <Keys>F6</Keys> bench
                </span>
                <Button weight="word" onPress={() => setOpen("jot")}>
                  <Keys>Alt J</Keys> Jot several at once
                </Button>
                <Button weight="word" onPress={() => setOpen("bank")}>
                  <Keys>Alt B</Keys> Bank
                </Button>
                <Button weight="word" onPress={() => setOpen("arrange")}>
                  <Keys>Alt A</Keys> Arrange
                </Button>
                <Button weight="word" onPress={() => setOpen("jump")}>
                  <Keys>Ctrl K</Keys> Jump
                </Button>
                <AlsoHere others={others} />
                <Quiet role="status" style={{ marginInlineStart: "auto" }}>
                  {SAVING[draft.saving]}
                </Quiet>
              </Foot>
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
              <Bench {...(draft.step.startsWith(WORDING) ? late : shared)} />
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
