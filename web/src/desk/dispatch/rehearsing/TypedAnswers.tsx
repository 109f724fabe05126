/** Answers that nobody sent, to rehearse with: typed on the spot, or an example of a proof. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../../ui/Button";
import { Quiet } from "../../../ui/text";
import { WalkLegs } from "../../proof/WalkLegs";
import { hand, tabDraftOf, Tried } from "../../trying/Tried";
import { Line } from "../kit";
import type { Example } from "../useRouting";

const Frame = styled.div`
  display: grid;
  height: min(62vh, 560px);
  border: 1px solid var(--line);
`;

interface TypedAnswersProps {
  id: string;
  onTyped: (answers: object) => void;
}

export function TypedAnswers({ id, onTyped }: TypedAnswersProps) {
  const [round, setRound] = useState(0);
  return (
    <>
      <Quiet>Answer as a visitor would. Nothing is kept.</Quiet>
      <Frame>
        <Tried id={id} width="phone" round={String(round)} />
      </Frame>
      <Line>
        <Button weight="main" onPress={() => onTyped(tabDraftOf(id)?.answers ?? {})}>
          Rehearse these answers
        </Button>
        <Button
          weight="word"
          onPress={() => {
            hand(id, null);
            setRound((before) => before + 1);
          }}
        >
          Start again
        </Button>
      </Line>
    </>
  );
}

export function ExampleSaid({ example }: { example: Example }) {
  return (
    <details open>
      <summary>How such an entry comes about</summary>
      {example.facts.length ? (
        <p>
          <Quiet>{example.facts.map(({ label, words }) => `${label}: ${words}`).join(". ")}</Quiet>
        </p>
      ) : null}
      <WalkLegs walk={example.walk} />
    </details>
  );
}
