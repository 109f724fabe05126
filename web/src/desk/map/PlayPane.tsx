/** A walk-through played in the answering page, step by step. */
import { useEffect, useRef, useState } from "react";

import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { hand, Head, Pane, Tried } from "../trying/Tried";
import type { WalkThrough } from "../proof/WalkLegs";

/** Hand a walk-through over to the page, which takes it up at that step when it is loaded. */
export function handStep(id: string, revision: number, walk: WalkThrough, step: number): void {
  const page = walk.legs[step]?.page;
  if (page) hand(id, { answers: walk.answers, page, edition: revision });
}

interface PlayPaneProps {
  id: string;
  revision: number;
  /** Its first step has been handed over. */
  walk: WalkThrough;
  onClose: () => void;
}

export function PlayPane({ id, revision, walk, onClose }: PlayPaneProps) {
  const [step, setStep] = useState(0);
  const head = useRef<HTMLDivElement>(null);
  useEffect(() => head.current?.querySelector("button")?.focus(), []);
  const leg = walk.legs[step];
  if (!leg) return null;
  const go = (to: number) => {
    if (!walk.legs[to]) return;
    handStep(id, revision, walk, to);
    setStep(to);
  };
  return (
    <Pane aria-label="Walk-through" data-region="bench">
      <Head ref={head}>
        <h2>
          Step {step + 1} of {walk.legs.length}: {leg.title}
        </h2>
        <Button onPress={onClose}>Close</Button>
      </Head>
      <Head style={{ paddingBlockStart: 0 }}>
        <Button isDisabled={step === 0} onPress={() => go(step - 1)}>
          Step back
        </Button>
        <Button
          weight="main"
          isDisabled={step + 1 === walk.legs.length}
          onPress={() => go(step + 1)}
        >
          Next step
        </Button>
        <Quiet role="status">Then: {leg.then}</Quiet>
      </Head>
      <Tried
        id={id}
        width="phone"
        round={`${step} ${revision}`}
        link={new URLSearchParams(walk.link.map(({ key, value }) => [key, value])).toString()}
      />
    </Pane>
  );
}
