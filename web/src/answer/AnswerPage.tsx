/** A page of the questionnaire: its items, what is wrong with them, back and onward. */
import {
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type SubmitEvent,
} from "react";
import styled from "styled-components";

import { isEmpty, isWithin } from "../items/answer";
import { focusSoon, Reveal, type Revealed } from "../items/reveal";
import { Busy, Senders } from "../items/sending";
import { Seed } from "../items/shared";
import { ByStaff, StaffContext } from "./ByStaff";
import { Formatted } from "../items/Shown";
import { useSay, WordsContext } from "../items/words";
import { Button } from "../ui/Button";
import { Strip } from "../ui/Strip";
import { Unseen } from "../ui/text";
import { Done } from "./Done";
import { Failures, OneFailure } from "./Failures";
import { Frame, Paper } from "./Frame";
import { asksDevice, proof } from "./gate/asked";
import { Later } from "./saved/Later";
import { LookContext } from "./look";
import { Notices } from "./gate/Notices";
import { OwnEntry, type Own } from "./saved/OwnEntry";
import { Questions } from "./Questions";
import { SignIn } from "./gate/SignIn";
import { stopAt, type Landing } from "./stops";
import { sender } from "./saved/upload";
import { Refused } from "./gate/Refused";
import { Trap } from "./gate/Trap";
import { useSaving } from "./saved/useSaving";
import { WaitingList } from "./gate/WaitingList";
import { useVisit } from "./useVisit";
import type { Answering, Page } from "./visit";

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

/** Move to the top of a page or question that was turned to, and tell it to screen readers by the
 * focus: the question's field, or the heading where more is to be read first. The focus is not
 * taken from what stands around the page where it is shown in a frame. */
function useTurned(page: string, question: string, atField: boolean) {
  const heading = useRef<HTMLHeadingElement>(null);
  const shown = useRef({ page, question });
  useEffect(() => {
    const before = shown.current;
    shown.current = { page, question };
    const turned = before.page !== page;
    if (!turned && before.question === question) return;
    window.scrollTo({ top: 0 });
    if (!document.hasFocus()) return;
    if (atField && !turned) focusSoon(question);
    else heading.current?.focus();
  }, [page, question, atField]);
  return heading;
}

type Visiting = ReturnType<typeof useVisit>;

function Trouble({ visit, onAgain }: { visit: Answering; onAgain: () => void }) {
  const say = useSay();
  const { trouble } = visit;
  if (!trouble) return null;
  return (
    <Strip tone="wrong">
      <span>
        {trouble.kind === "gate" ? <b>{trouble.heading}. </b> : null}
        {trouble.detail} {trouble.kind === "away" ? say("kept_here") : null}
        {trouble.kind === "gate" ? say("kept_started") : null}
      </span>
      <Button weight="plain" onPress={onAgain}>
        {say("try_again")}
      </Button>
    </Strip>
  );
}

/** Counts the files on their way, and says why one cannot go on while there are any. */
function useBusyFiles(refuse: Visiting["refuse"]) {
  const say = useSay();
  const going = useRef(0);
  const busy = useMemo(() => {
    const count = (by: 1 | -1) => () => void (going.current += by);
    return { begin: count(1), end: count(-1) };
  }, []);
  const isFree = () => {
    if (going.current > 0) refuse(say("files_busy"));
    return going.current === 0;
  };
  return { busy, isFree };
}

/** What of the page is shown: all of it, or one question after the other. */
function shownOf({ page, at }: Answering, oneByOne: boolean) {
  if (!oneByOne)
    return { items: page.items, question: "", before: null, number: 0, count: 1, alone: false };
  return { ...stopAt(page.items, at), alone: true };
}

const About = styled.p`
  color: var(--ink-2);
  font-weight: 600;
`;

interface SheetProps extends Pick<Visiting, "answer" | "leave" | "go" | "step" | "refuse"> {
  visit: Answering;
  own: Own | undefined;
  foot: ReactNode;
}

function Sheet({ visit, answer, leave, go, step, refuse, own, foot }: SheetProps) {
  const { page, faults, found, busy } = visit;
  const say = useSay();
  const look = useContext(LookContext);
  const staff = useContext(StaffContext);
  const shown = shownOf(visit, look.one_by_one);
  const { items, question, number, count } = shown;
  const failing = found.filter(({ at }) => items.some(({ key }) => isWithin(at, key)));
  const heading = useTurned(page.key, question, items[0]?.key === question && !failing.length);
  const { busy: busyFiles, isFree } = useBusyFiles(refuse);
  const [revealed, setRevealed] = useState<Revealed>({ place: "" });
  const onward = (event?: SubmitEvent) => {
    event?.preventDefault();
    const landing: Landing = shown.alone ? { after: question } : "first";
    if (isFree()) void go("onward", page.key, { item: question, landing });
  };
  const back = () => {
    if (shown.before !== null) step(shown.before);
    else void go("stay", page.before ?? "", { landing: shown.alone ? "last" : "first" });
  };
  const reveal = useCallback((place: string) => {
    setRevealed({ place });
    focusSoon(place);
  }, []);
  return (
    <Frame title={page.title} progress={page.progress + (page.share * number) / count}>
      <Paper>
        <ByStaff />
        {page.about ? <About>{say("about", { name: page.about })}</About> : null}
        <h1 ref={heading} tabIndex={-1}>
          {page.heading}
        </h1>
        {!page.before && number === 0 ? <SignIn /> : null}
        {own && !staff && ((!page.before && number === 0) || !own.href) ? (
          <OwnEntry {...own} />
        ) : null}
        {look.introduction && !page.before && number === 0 ? (
          <Introduction dangerouslySetInnerHTML={{ __html: look.introduction }} />
        ) : null}
        {page.replaced ? <Strip>{say("replaced")}</Strip> : null}
        <Notices notices={page.notices ?? []} />
        {faults.length && shown.alone && failing.length === 1 && failing[0] ? (
          <OneFailure fault={failing[0]} onReveal={reveal} />
        ) : null}
        {faults.length && failing.length > (shown.alone ? 1 : 0) ? (
          <Failures faults={failing} items={items} found={found} onReveal={reveal} />
        ) : null}
        <form onSubmit={onward} noValidate>
          <Reveal.Provider value={revealed}>
            <Busy.Provider value={busyFiles}>
              <Questions
                items={items}
                alone={shown.alone}
                visit={visit}
                answer={answer}
                leave={leave}
              />
            </Busy.Provider>
          </Reveal.Provider>
          <Trap />
          <Trouble visit={visit} onAgain={() => onward()} />
          <Turn>
            {page.before || number > 0 ? <Button onPress={back}>{say("back")}</Button> : null}
            <Button weight="main" type="submit">
              {say(page.last && number + 1 === count ? "send" : "continue")}
            </Button>
          </Turn>
        </form>
        <Unseen role="status">{busy ? say("busy") : ""}</Unseen>
      </Paper>
      {visit.trouble?.kind === "gate" && visit.trouble.waiting ? <WaitingList /> : null}
      {foot}
    </Frame>
  );
}

interface AnswerPageProps {
  first: Page;
  submission?: string | undefined;
  own?: Own | undefined;
}

export function AnswerPage({ first, submission, own }: AnswerPageProps) {
  const words = useContext(WordsContext);
  const visiting = useVisit(first, words, submission);
  const { visit, answer, leave, go, step, kept, resume, refuse, seed } = visiting;
  const saving = useSaving(visit, kept, resume);
  const send = useMemo(() => sender(first.edition), [first.edition]);
  useEffect(() => void proof(seed), [seed]);
  // Only the browser can say whether it is known: the page is asked for again with its name.
  useEffect(() => {
    if (asksDevice) void go("stay", first.key, { record: false });
  }, [go, first.key]);
  if (visit.state === "finished") {
    return <Done title={first.title} finish={visit.finish} submission={visit.submission} />;
  }
  if (visit.trouble?.kind === "gate" && Object.values(visit.answers).every(isEmpty)) {
    const { heading, detail, waiting } = visit.trouble;
    return <Refused code="shut" detail={detail} params={{ heading, waiting }} />;
  }
  return (
    <Seed.Provider value={seed}>
      <Senders.Provider value={send}>
        <Sheet
          visit={visit}
          answer={answer}
          leave={leave}
          go={go}
          step={step}
          refuse={refuse}
          own={own}
          foot={<Later {...saving} />}
        />
      </Senders.Provider>
    </Seed.Provider>
  );
}
