/** Map: the branching drawn and proved. The drawing at the left, the proof or the bench at the
 * right; what is written here is the same draft as in the script. */
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import { flushSync } from "react-dom";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { Tools } from "../condition/tools";
import { Bench } from "../bench/Bench";
import { Clash } from "../draft/Clash";
import type { Spot } from "../draft/edits";
import { follow } from "../draft/follow";
import { SAVING } from "../draft/saving";
import { Side } from "../shell/Section";
import { paneWidth, type Width } from "../trying/Tried";
import { TryPane } from "../trying/TryPane";
import type { Draft, Joining } from "../draft/useDraft";
import { useWriting } from "../bench/useWriting";
import { WithDraft, type WritingProps } from "../draft/WithDraft";
import { PlaceActions } from "../shell/PlaceActions";
import { Drawing } from "./Drawing";
import { finishAt, graphOf, litBy, pageAt } from "./graph";
import { SpotToRead } from "./SpotToRead";
import { handStep, PlayPane } from "./PlayPane";
import { ProofPanel } from "../proof/ProofPanel";
import type { WalkThrough } from "../proof/WalkLegs";
import { marksOf, spotAt } from "../proof/spots";
import { stopId } from "./Stops";
import { useProof } from "../proof/useProof";
import { TrafficPanel } from "./TrafficPanel";
import { useCounted, useTraffic } from "./useTraffic";
import { useTriedPath } from "./useTriedPath";

const BENCH = 372;

const Whole = styled.div<{ $beside: number }>`
  display: grid;
  > aside {
    height: calc(100vh - 102px);
  }
  grid-template-columns: minmax(0, 1fr) ${({ $beside }) => $beside}px;
  @media (max-width: 1080px) {
    grid-template-columns: minmax(0, 1fr);
    > aside {
      height: auto;
    }
  }
`;

const Foot = styled.p`
  padding: 10px 18px;
`;

const Top = styled.div`
  padding: 10px 18px 0;
`;

const NOWHERE: ReadonlySet<string> = new Set();

/** What stands at the right: the proof, the bench of what is chosen, the page that is tried. */
type Beside =
  | { show: "proof" }
  | { show: "bench"; spot: Spot }
  | { show: "try"; width: Width; spot: Spot | null };

function usePlaying(made: Draft) {
  const [walk, setWalk] = useState<WalkThrough | null>(null);
  const [playing, setPlaying] = useState(false);
  const { id, revision } = made;
  return {
    walk,
    playing: playing && walk ? walk : null,
    show: (next: WalkThrough | null) => {
      setWalk(next);
      setPlaying(false);
    },
    play: (next: WalkThrough) => {
      handStep(id, revision, next, 0);
      setWalk(next);
      setPlaying(true);
    },
    stop: () => {
      flushSync(() => setPlaying(false));
      document.querySelector<HTMLElement>("aside [aria-pressed=true]")?.focus();
    },
  };
}

function Writing(props: WritingProps) {
  const { id, writes } = props;
  const [beside, setBeside] = useState<Beside>({ show: "proof" });
  const go = useCallback<Joining>((before, { doc, renamed }) => {
    setBeside((now) =>
      now.show === "bench" ? { ...now, spot: follow(now.spot, before, doc, renamed) } : now,
    );
  }, []);
  const { draft: made, tools } = useWriting(props, go);
  const { doc, revision } = made;
  const proved = useProof(made);
  const playing = usePlaying(made);
  const [problem, setProblem] = useState("");
  const [link, setLink] = useState("");
  const tried = useTriedPath(id, link, beside.show === "try");
  const late = useDeferredValue(doc);
  const graph = useMemo(() => graphOf(late), [late]);
  const counting = useTraffic(id, graph);
  const counts = useCounted(id);
  const marks = useMemo(() => marksOf(proved.proof?.findings ?? []), [proved.proof]);
  const walked = tried ?? (playing.walk ? walkOf(playing.walk) : null);
  const lit = useMemo(() => (walked ? litBy(late, walked) : NOWHERE), [late, walked]);
  const choose = (at: string) => {
    const spot = spotAt(doc, at);
    if (spot) setBeside({ show: "bench", spot });
  };
  const showExample = (number: number) => {
    exampleOf(id, number).then(
      (found) => {
        setProblem("");
        playing.show(found);
        setBeside({ show: "proof" });
      },
      (error: unknown) => setProblem((error as Error).message),
    );
  };
  const spot = beside.show === "bench" ? beside.spot : null;
  const chosen = chosenAt(spot, made);
  const example = proved.current ? proved.proof?.examples?.[chosen] : undefined;
  const width = beside.show === "try" ? beside.width : null;
  const wide = playing.playing ? paneWidth("phone") : width ? paneWidth(width) : BENCH;
  const lead = (
    <Top>
      <Button
        onPress={() => {
          setBeside({ show: "proof" });
          document.getElementById(stopId(chosen))?.focus();
        }}
      >
        {counting.isOn ? "Back to the way people went" : "Back to the proof"}
      </Button>
      {example === undefined ? null : (
        <Button weight="word" onPress={() => showExample(example)}>
          Show an example that comes here
        </Button>
      )}
    </Top>
  );
  return (
    <Tools value={tools}>
      <PlaceActions>
        <Button
          onPress={() =>
            setBeside(width ? { show: "proof" } : { show: "try", width: "phone", spot })
          }
        >
          Try it
        </Button>
      </PlaceActions>
      {made.refusal || problem ? <Strip tone="wrong">{made.refusal || problem}</Strip> : null}
      <Whole $beside={wide}>
        <Drawing
          graph={graph}
          chosen={chosen}
          lit={lit}
          marks={marks}
          counting={counts ? counting : undefined}
          onChoose={choose}
        />
        {playing.playing ? (
          <PlayPane id={id} revision={revision} walk={playing.playing} onClose={playing.stop} />
        ) : width ? (
          <TryPane
            draft={made}
            spot={beside.show === "try" ? beside.spot : null}
            width={width}
            onWidth={(next) => setBeside({ show: "try", width: next, spot: null })}
            link={link}
            onLink={setLink}
            onClose={() => setBeside({ show: "proof" })}
          />
        ) : spot ? (
          writes ? (
            <Bench
              draft={made}
              spot={spot}
              onSpot={(next) => setBeside({ show: "bench", spot: next })}
              lead={lead}
            />
          ) : (
            <SpotToRead doc={doc} spot={spot} lead={lead} />
          )
        ) : counting.isOn ? (
          <TrafficPanel id={id} counting={counting} now={graph} />
        ) : (
          <Side aria-label="The proof" data-region="bench">
            <ProofPanel
              id={id}
              doc={doc}
              revision={revision}
              writes={writes}
              proved={proved}
              walk={playing.walk}
              onWalk={playing.show}
              onPlay={playing.play}
              onGo={choose}
              onExample={showExample}
            />
            <Foot>
              <Quiet role="status">{SAVING[made.saving]}</Quiet>
            </Foot>
          </Side>
        )}
      </Whole>
      <Clash draft={made} />
    </Tools>
  );
}

const exampleOf = (id: string, number: number) =>
  got(
    client.GET("/api/questionnaires/{id}/draft/proof/examples/{number}", {
      params: { path: { id, number } },
    }),
  );

function walkOf({ legs, finish }: WalkThrough): Schema<"PathOut"> {
  return { pages: legs.map(({ page }) => page), rules: legs.map(({ rule }) => rule), finish };
}

function chosenAt(spot: Spot | null, { doc }: Draft): string {
  if (spot?.on === "page") return pageAt(doc.pages[spot.page]?.key ?? "");
  return spot?.on === "finish" ? finishAt(doc.finishes[spot.finish]?.key ?? "") : "";
}

export function MapPlace() {
  return <WithDraft>{(props) => <Writing key={props.id} {...props} />}</WithDraft>;
}
