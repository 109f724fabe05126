/** What an answering page knows, and how it changes: state to state, no effects. */
import type { Fault, Schema } from "../client/client";
import { isWithin, type Answer } from "../items/answer";
import { landed, type Landing } from "./stops";

export type Page = Schema<"PageOut">;
export type Finish = Schema<"FinishOut">;
export type Answers = Readonly<Record<string, Answer>>;

/** Why the page is waiting or could not go on. */
export type Trouble =
  | { kind: "away"; detail: string }
  | { kind: "refused"; detail: string }
  /** The gate lets them not go on any more. */
  | { kind: "gate"; heading: string; detail: string; waiting: string };

export interface Answering {
  readonly state: "answering";
  readonly page: Page;
  readonly answers: Answers;
  /** The question one is at, where they are asked one by one; none for the first. */
  readonly at: string;
  /** What is wrong now, by item; an answer that is changed drops out. */
  readonly faults: readonly Fault[];
  /** What the server found wrong when it was last asked to go on. */
  readonly found: readonly Fault[];
  readonly busy: boolean;
  readonly trouble: Trouble | null;
}

export interface Finished {
  readonly state: "finished";
  readonly finish: Finish;
  /** Names what was sent, for who goes on in another questionnaire. */
  readonly submission: string;
}

export type Visit = Answering | Finished;

export type Change =
  | { kind: "answered"; key: string; answer: Answer; place: string }
  | { kind: "resumed"; answers: Answers }
  | { kind: "asked" }
  | { kind: "shown"; page: Page; landing: Landing }
  | { kind: "stepped"; at: string }
  | { kind: "refreshed"; page: Page; touched: readonly string[] }
  | { kind: "judged"; place: string; fault: Fault | null }
  | { kind: "failed"; trouble: Trouble; faults?: readonly Fault[] }
  | { kind: "finished"; finish: Finish; submission: string };

export function begin(page: Page, answers: Answers, at = ""): Answering {
  const filled = { ...(page.filled as Answers), ...answers };
  return {
    state: "answering",
    page,
    answers: filled,
    at,
    faults: [],
    found: [],
    busy: false,
    trouble: null,
  };
}

export function change(visit: Visit, event: Change): Visit {
  if (event.kind === "finished") {
    const { finish, submission } = event;
    return { state: "finished", finish, submission };
  }
  if (visit.state === "finished") return visit;
  switch (event.kind) {
    case "answered":
      return {
        ...visit,
        answers: { ...visit.answers, [event.key]: event.answer },
        faults: visit.faults.filter((fault) => !isWithin(fault.at, event.place)),
      };
    case "resumed":
      return { ...visit, answers: { ...visit.answers, ...event.answers } };
    case "judged":
      return {
        ...visit,
        faults: [
          ...visit.faults.filter((fault) => fault.at !== event.place),
          ...(event.fault ? [event.fault] : []),
        ],
      };
    case "refreshed":
      return {
        ...visit,
        page: event.page,
        answers: { ...(event.page.filled as Answers), ...visit.answers },
        faults: [
          ...visit.faults.filter((fault) => !event.touched.includes(fault.at)),
          ...event.page.faults,
        ],
        busy: false,
        trouble: null,
      };
    case "asked":
      return { ...visit, busy: true, trouble: null };
    case "shown":
      return {
        ...visit,
        page: event.page,
        at: landed(event.page.items, event.page.faults, event.landing),
        answers: { ...(event.page.filled as Answers), ...visit.answers },
        faults: event.page.faults,
        found: event.page.faults,
        busy: false,
        trouble: null,
      };
    case "stepped":
      return { ...visit, at: event.at, found: [], trouble: null };
    case "failed":
      return {
        ...visit,
        busy: false,
        trouble: event.trouble,
        faults: event.faults?.length ? event.faults : visit.faults,
      };
  }
}
