/** A page of the questionnaire: its items, what is wrong with them, back and onward. */
import {
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type SubmitEvent,
} from "react";
import styled from "styled-components";

import type { Fault } from "../client/client";
import { faultsIn, type Item } from "../items/answer";
import { Question } from "../items/Question";
import { focusSoon, Reveal, type Revealed } from "../items/reveal";
import { Busy, Senders } from "../items/sending";
import { Seed } from "../items/shared";
import { Formatted } from "../items/Shown";
import { useSay, WordsContext, type Say } from "../items/words";
import { Button } from "../ui/Button";
import { Strip } from "../ui/Strip";
import { Unseen } from "../ui/text";
import { Frame, Paper } from "./Frame";
import type { Answering, Finish, Page } from "./visit";
import { Later } from "./Later";
import { LookContext } from "./look";
import { sender } from "./upload";
import { useSaving } from "./useSaving";
import { useVisit } from "./useVisit";

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

const Introduction = styled(Formatted)`
  margin-top: 12px;
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

const Message = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

/** What the question at a place is called; inside others, with what it stands in. */
function nameOf(items: readonly Item[], place: string, say: Say): string {
  const [key, ...steps] = place.split("/");
  const outer = items.find((item) => item.key === key);
  const inner = [...(outer?.items ?? []), ...(outer?.entries ?? []).flat()];
  const found = steps.map((step) => inner.find((item) => item.key === step)).find(Boolean);
  const [first = "", last = ""] = [steps[0], steps.at(-1)];
  const asked = found ?? outer;
  const within =
    outer?.kind === "roster" && first
      ? say("entry", { noun: outer.noun ?? "", number: Number(first) + 1 })
      : (outer?.rows?.find(({ code }) => code === first)?.label ?? "");
  const part = asked?.parts?.includes(last) ? say(`${asked.kind}_${last}`) : "";
  return [within, asked?.text, part].filter(Boolean).join(": ");
}

interface FailuresProps {
  faults: readonly Fault[];
  items: readonly Item[];
  onReveal: (place: string) => void;
}

function Failures({ faults, items, onReveal }: FailuresProps) {
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.focus(), [faults]);
  return (
    <Summary ref={box} tabIndex={-1} role="alert">
      <h2>{faults.length === 1 ? say("one_fault") : say("faults", { count: faults.length })}</h2>
      <ul>
        {faults.map((fault) => (
          <li key={fault.at}>
            <a
              href={`#item-${fault.at}`}
              onClick={(event) => {
                event.preventDefault();
                onReveal(fault.at);
              }}
            >
              {nameOf(items, fault.at, say)}
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
        {finish.onward ? (
          <p>
            <a href={finish.onward.address} rel="noreferrer">
              {finish.onward.label}
            </a>
          </p>
        ) : null}
      </Paper>
    </Frame>
  );
}

/** Move to the top of a page that was turned to, and tell its heading to screen readers; the focus
 * is not taken from what stands around the page where it is shown in a frame. */
function useTurned(page: Page) {
  const heading = useRef<HTMLHeadingElement>(null);
  const shown = useRef(page.key);
  useEffect(() => {
    if (shown.current === page.key) return;
    shown.current = page.key;
    if (document.hasFocus()) heading.current?.focus();
    window.scrollTo({ top: 0 });
  }, [page.key]);
  return heading;
}

type Visiting = ReturnType<typeof useVisit>;

function Trouble({ visit, onAgain }: { visit: Answering; onAgain: () => void }) {
  const say = useSay();
  if (!visit.trouble) return null;
  return (
    <Strip tone="wrong">
      <span>
        {visit.trouble.detail} {visit.trouble.kind === "away" ? say("kept_here") : null}
      </span>
      <Button weight="plain" onPress={onAgain}>
        {say("try_again")}
      </Button>
    </Strip>
  );
}

interface SheetProps extends Pick<Visiting, "answer" | "leave" | "go" | "refuse"> {
  visit: Answering;
  foot: ReactNode;
}

function Sheet({ visit, answer, leave, go, refuse, foot }: SheetProps) {
  const { page, faults, found, busy } = visit;
  const say = useSay();
  const look = useContext(LookContext);
  const heading = useTurned(page);
  const going = useRef(0);
  const busyFiles = useMemo(() => {
    const count = (by: 1 | -1) => () => void (going.current += by);
    return { begin: count(1), end: count(-1) };
  }, []);
  const [revealed, setRevealed] = useState<Revealed>({ place: "" });
  const onward = (event?: SubmitEvent) => {
    event?.preventDefault();
    if (going.current > 0) refuse(say("files_busy"));
    else void go("onward", page.key);
  };
  const reveal = (place: string) => {
    setRevealed({ place });
    focusSoon(place);
  };
  return (
    <Frame title={page.title} progress={page.progress}>
      <Paper>
        <h1 ref={heading} tabIndex={-1}>
          {page.heading}
        </h1>
        {look.introduction && !page.before ? (
          <Introduction dangerouslySetInnerHTML={{ __html: look.introduction }} />
        ) : null}
        {page.replaced ? <Strip>{say("replaced")}</Strip> : null}
        {found.length && faults.length ? (
          <Failures faults={found} items={page.items} onReveal={reveal} />
        ) : null}
        <form onSubmit={onward} noValidate>
          <Reveal.Provider value={revealed}>
            <Busy.Provider value={busyFiles}>
              <Items>
                {page.items.map((item) => (
                  <Place key={item.key} $span={SPANS[item.span ?? "full"]}>
                    <Question
                      item={item}
                      at={item.key}
                      answer={visit.answers[item.key] ?? null}
                      faults={faultsIn(faults, item.key)}
                      onAnswer={answer}
                      onLeave={leave}
                    />
                  </Place>
                ))}
              </Items>
            </Busy.Provider>
          </Reveal.Provider>
          <Trouble visit={visit} onAgain={() => onward()} />
          <Turn>
            {page.before ? (
              <Button onPress={() => void go("stay", page.before ?? "")}>{say("back")}</Button>
            ) : null}
            <Button weight="main" type="submit">
              {say(page.last ? "send" : "continue")}
            </Button>
          </Turn>
        </form>
        <Unseen role="status">{busy ? say("busy") : ""}</Unseen>
      </Paper>
      {foot}
    </Frame>
  );
}

interface AnswerPageProps {
  first: Page;
  submission?: string | undefined;
}

export function AnswerPage({ first, submission }: AnswerPageProps) {
  const words = useContext(WordsContext);
  const visiting = useVisit(first, words, submission);
  const { visit, answer, leave, go, kept, resume, refuse, seed } = visiting;
  const saving = useSaving(visit, kept, resume);
  const send = useMemo(() => sender(first.edition), [first.edition]);
  if (visit.state === "finished") return <Done title={first.title} finish={visit.finish} />;
  return (
    <Seed.Provider value={seed}>
      <Senders.Provider value={send}>
        <Sheet
          visit={visit}
          answer={answer}
          leave={leave}
          go={go}
          refuse={refuse}
          foot={<Later {...saving} />}
        />
      </Senders.Provider>
    </Seed.Provider>
  );
}
