/** Putting options in an order: pressed one after the other, then dragged, or moved by buttons. */
import { useRef } from "react";
import { useMove, type MoveEvents } from "react-aria/useMove";
import styled from "styled-components";

import { Button } from "../ui/Button";
import { Group } from "../ui/Group";
import { list, type QuestionProps } from "./answer";
import { useOrder, useShared } from "./shared";
import { movedTo } from "./movedTo";
import { useDragged } from "./useDragged";
import { useSay } from "./words";

const Placed = styled.ol`
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 10px;
    align-items: center;
    border: 1.5px solid var(--accent);
    background: var(--accent-soft);
    border-radius: 4px;
    margin-top: 8px;
    padding: 5px 8px 5px 14px;
    min-height: 46px;
    position: relative;
    @media (prefers-reduced-motion: no-preference) {
      transition: transform 0.12s;
    }
  }
  li[data-dragged] {
    transition: none;
    box-shadow: 0 4px 14px rgb(0 0 0 / 0.25);
  }
  b {
    min-width: 1em;
    color: var(--accent);
  }
  span[data-words] {
    flex: 1;
    min-width: 5em;
    overflow-wrap: anywhere;
  }
`;

const Moves = styled.div`
  display: flex;
  margin-inline-start: auto;
  button {
    min-width: 38px;
    min-height: 44px;
    padding: 0;
    font-size: 17px;
  }
`;

/** Held with a pointer to drag its row. */
const Grip = styled.span`
  display: grid;
  place-items: center;
  width: 32px;
  align-self: stretch;
  margin-inline-start: -8px;
  color: var(--accent);
  cursor: grab;
  touch-action: none;
  user-select: none;
  [data-dragged] > & {
    cursor: grabbing;
  }
  @media print {
    display: none;
  }
`;

const Spare = styled.div`
  display: grid;
  gap: 8px;
  margin-top: 8px;
  button {
    justify-content: start;
    text-align: start;
    font-size: inherit;
    font-weight: 400;
    min-height: 46px;
  }
`;

function Handle({ moves }: { moves: MoveEvents }) {
  const { moveProps } = useMove(moves);
  return (
    <Grip aria-hidden {...moveProps}>
      ≡
    </Grip>
  );
}

export function RankList(props: QuestionProps) {
  const { item, at, answer, onAnswer } = props;
  const say = useSay();
  const { id, label, help, error } = useShared(props);
  const options = useOrder(item);
  const box = useRef<HTMLDivElement>(null);
  const placed = list(answer).filter((one): one is string => typeof one === "string");
  const most = item.most ?? options.length;
  const spare = options.filter(({ code }) => !placed.includes(code));
  const name = (code: string) => options.find((one) => one.code === code)?.label ?? code;
  /** Answer, and put the focus on the first of these that is there then. */
  const set = (next: readonly string[], ...focus: string[]) => {
    onAnswer(next, at);
    requestAnimationFrame(() => {
      const there = [...focus, "[data-spare] button", "button:not([disabled])"];
      for (const selector of there) {
        const found = box.current?.querySelector<HTMLElement>(selector);
        if (found) {
          found.focus();
          return;
        }
      }
    });
  };
  const move = (from: number, by: -1 | 1) => {
    const code = placed[from] ?? "";
    const next = movedTo(placed, from, from + by);
    set(next, `[data-move="${code} ${by}"]:not([disabled])`, `[data-move="${code} ${-by}"]`);
  };
  const rows = useRef<HTMLOListElement>(null);
  const dragged = useDragged(rows, (from, to) => onAnswer(movedTo(placed, from, to), at));
  return (
    <Group
      id={id}
      label={label}
      help={[help, say("rank_help")].filter(Boolean).join(" ")}
      error={error}
    >
      <div ref={box}>
        <Placed ref={rows}>
          {placed.map((code, place) => (
            <li key={code} {...dragged.row(place)}>
              {placed.length > 1 ? <Handle moves={dragged.moves(place)} /> : null}
              <b>{place + 1}</b>
              <span data-words>{name(code)}</span>
              <Moves>
                {([-1, 1] as const).map((by) => (
                  <Button
                    key={by}
                    data-move={`${code} ${by}`}
                    weight="word"
                    isDisabled={!placed[place + by]}
                    aria-label={`${say(by < 0 ? "up" : "down")}: ${name(code)}`}
                    onPress={() => move(place, by)}
                  >
                    {by < 0 ? "↑" : "↓"}
                  </Button>
                ))}
                <Button
                  weight="word"
                  aria-label={`${say("take_back")}: ${name(code)}`}
                  onPress={() => set(placed.filter((one) => one !== code))}
                >
                  ×
                </Button>
              </Moves>
            </li>
          ))}
        </Placed>
        {placed.length < most ? (
          <Spare data-spare>
            {spare.map(({ code, label: words }) => (
              <Button
                key={code}
                aria-label={say("rank_add", { label: words, place: placed.length + 1 })}
                onPress={() => set([...placed, code])}
              >
                {words}
              </Button>
            ))}
          </Spare>
        ) : null}
      </div>
    </Group>
  );
}
