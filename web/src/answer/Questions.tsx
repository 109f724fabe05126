/** The questions that are shown, in their columns. */
import styled from "styled-components";

import { faultsIn, type Item } from "../items/answer";
import { Question } from "../items/Question";
import type { useVisit } from "./useVisit";
import type { Answering } from "./visit";

const Items = styled.div`
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 28px 18px;
  margin-top: 22px;
  @media (max-width: 560px) {
    display: block;
    > * + * {
      margin-top: 28px;
    }
  }
`;

/** How many of the six columns a question takes. */
const SPANS = { full: 6, half: 3, third: 2 };

const Place = styled.div<{ $span: number }>`
  grid-column: span ${({ $span }) => $span};
  min-width: 0;
`;

interface QuestionsProps extends Pick<ReturnType<typeof useVisit>, "answer" | "leave"> {
  items: readonly Item[];
  /** Whether they stand alone, whatever row they are in among others. */
  alone: boolean;
  visit: Answering;
}

export function Questions({ items, alone, visit, answer, leave }: QuestionsProps) {
  return (
    <Items>
      {items.map((item) => (
        <Place key={item.key} $span={SPANS[alone ? "full" : (item.span ?? "full")]}>
          <Question
            item={item}
            at={item.key}
            answer={visit.answers[item.key] ?? null}
            faults={faultsIn(visit.faults, item.key)}
            onAnswer={answer}
            onLeave={leave}
          />
        </Place>
      ))}
    </Items>
  );
}
