/** A page of the questionnaire: its items, what is wrong with them, back and onward. */
import { useEffect, useRef, type SubmitEvent } from "react";
import styled from "styled-components";

import type { Fault } from "../client/client";
import { Question, type Item } from "../items/Question";
import { Button } from "../ui/Button";
import { Strip } from "../ui/Strip";
import { Unseen } from "../ui/text";
import { Frame, Paper } from "./Frame";
import type { Answering, Finish, Page } from "./visit";
import { useVisit } from "./useVisit";

const Items = styled.div`
  display: grid;
  gap: 28px;
  margin-top: 22px;
`;

const Turn = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  justify-content: space-between;
  margin-top: 32px;
  button {
    font-size: 17px;
    padding: 10px 24px;
    min-height: 46px;
  }
  button[type="submit"] {
    margin-inline-start: auto;
  }
`;

const Summary = styled.div`
  border: 2px solid var(--rust);
  border-radius: 4px;
  padding: 12px 16px;
  margin-top: 18px;
  h2 {
    font-size: 18px;
    margin-bottom: 4px;
  }
  a {
    color: var(--rust);
  }
  li {
    padding: 3px 0;
  }
  li span {
    display: block;
  }
`;

const Foot = styled.footer`
  color: var(--ink-3);
  font-size: 15px;
  margin-top: 12px;
`;

const Message = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

/** Put the focus into the field of an item, or on the first of its options. */
function focusOn(key: string) {
  const field = document.getElementById(`item-${key}`);
  const inside = field?.querySelector<HTMLElement>("input, textarea");
  (inside ?? field)?.focus();
  field?.scrollIntoView({ block: "center" });
}

function Failures({ faults, items }: { faults: readonly Fault[]; items: readonly Item[] }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.focus(), [faults]);
  return (
    <Summary ref={box} tabIndex={-1} role="alert">
      <h2>
        {faults.length === 1 ? "One answer needs" : `${faults.length} answers need`} another look
      </h2>
      <ul>
        {faults.map((fault) => (
          <li key={fault.at}>
            <a
              href={`#item-${fault.at}`}
              onClick={(event) => {
                event.preventDefault();
                focusOn(fault.at);
              }}
            >
              {items.find((item) => item.key === fault.at)?.text}
            </a>
            <span>{fault.message}</span>
          </li>
        ))}
      </ul>
    </Summary>
  );
}

function Done({ title, finish }: { title: string; finish: Finish }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <Frame title={title} progress={1}>
      <Paper>
        <h1 ref={heading} tabIndex={-1}>
          {finish.heading}
        </h1>
        <Message>{finish.message}</Message>
      </Paper>
    </Frame>
  );
}

/** Move to the top of a page that was turned to, and tell its heading to screen readers. */
function useTurned(page: Page) {
  const heading = useRef<HTMLHeadingElement>(null);
  const shown = useRef(page.key);
  useEffect(() => {
    if (shown.current === page.key) return;
    shown.current = page.key;
    heading.current?.focus();
    window.scrollTo({ top: 0 });
  }, [page.key]);
  return heading;
}

type Visiting = ReturnType<typeof useVisit>;

function Sheet({ visit, answer, go }: { visit: Answering } & Pick<Visiting, "answer" | "go">) {
  const { page, faults, found, trouble, busy } = visit;
  const heading = useTurned(page);
  const onward = (event?: SubmitEvent) => {
    event?.preventDefault();
    void go("onward", page.key);
  };
  return (
    <Frame title={page.title} progress={page.progress}>
      <Paper>
        <h1 ref={heading} tabIndex={-1}>
          {page.heading}
        </h1>
        {faults.length ? <Failures faults={found} items={page.items} /> : null}
        <form onSubmit={onward} noValidate>
          <Items>
            {page.items.map((item) => (
              <Question
                key={item.key}
                item={item}
                answer={visit.answers[item.key] ?? null}
                error={faults.find((fault) => fault.at === item.key)?.message}
                onAnswer={(value) => answer(item.key, value)}
              />
            ))}
          </Items>
          {trouble ? (
            <Strip tone="wrong">
              <span>
                {trouble.detail} {trouble.kind === "away" ? "Your answers are kept here." : null}
              </span>
              <Button weight="plain" onPress={() => onward()}>
                Try again
              </Button>
            </Strip>
          ) : null}
          <Turn>
            {page.before ? (
              <Button onPress={() => void go("stay", page.before ?? "")}>Back</Button>
            ) : null}
            <Button weight="main" type="submit">
              {page.last ? "Send" : "Continue"}
            </Button>
          </Turn>
        </form>
        <Unseen role="status">{busy ? "One moment" : ""}</Unseen>
      </Paper>
      <Foot>Nothing is kept with us until you press Send.</Foot>
    </Frame>
  );
}

export function AnswerPage({ first }: { first: Page }) {
  const { visit, answer, go } = useVisit(first);
  if (visit.state === "finished") return <Done title={first.title} finish={visit.finish} />;
  return <Sheet visit={visit} answer={answer} go={go} />;
}
