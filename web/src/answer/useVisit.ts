/** Runs a visit: asks the server, keeps answers, follows the browser's back and forward. */
import { useCallback, useEffect, useReducer, useRef, useState } from "react";

import { ApiError, type Schema } from "../client/client";
import { PRESSED } from "../client/kinds";
import { isEmpty, type Answer, type Item } from "../items/answer";
import { instant } from "../items/instant";
import { fill, type Words } from "../items/words";
import { askPage, submit } from "./ask";
import {
  clearTabDraft,
  writeTabDraft,
  newSubmission,
  readTabDraft,
  type TabDraft,
} from "./saved/tabDraft";
import type { Landing } from "./stops";
import { faultOf, placesOf } from "./judge";
import {
  begin,
  change,
  type Answering,
  type Change,
  type Page,
  type Trouble,
  type Visit,
} from "./visit";

type Move = Schema<"PageIn">["move"];

/** Where one is, as the browser's history keeps it. */
interface Spot {
  page: string;
  at: string;
}

interface Going {
  /** Whether the browser's back button shall lead back from there. */
  record?: boolean;
  /** The places whose failures are wanted on staying. */
  touched?: readonly string[];
  /** The question that was answered last, where they are asked one by one. */
  item?: string;
  /** Where on the page one arrives. */
  landing?: Landing;
}

/** Milliseconds without a key after which a watched field is taken for answered. */
const TYPING = 350;

const CHOSEN: ReadonlySet<Item["kind"] | undefined> = new Set(PRESSED);

function kindAt(page: Page, key: string) {
  return page.items.find((item) => item.key === key)?.kind;
}

function start(first: Page): Answering {
  const saved = readTabDraft();
  return begin(first, saved?.answers ?? {}, saved?.page === first.key ? saved.at : "");
}

/** What a failed call says, in the reader's language where the page has words for it. */
function troubleOf(error: ApiError, { page }: Words): Trouble {
  const { code, params, message } = error;
  const heading = params["heading"];
  if (code === "shut" && typeof heading === "string")
    return { kind: "gate", heading, detail: message, waiting: params["waiting"] ? "yes" : "" };
  const ours = CHECKED.has(code) ? page[code] : undefined;
  const detail = ours ? fill(ours, { seconds: Number(params["retry_after"] ?? 0) }) : message;
  return { kind: error.passing && !ours ? "away" : "refused", detail };
}

/** What is asked of browsers, and has words of the page. */
const CHECKED: ReadonlySet<string> = new Set(["not_proved", "too_quick", "trapped"]);

export function useVisit(first: Page, words: Words, given?: string) {
  const [visit, dispatch] = useReducer(change, first, start);
  const [submission, setSubmission] = useState(
    () => readTabDraft()?.submission ?? given ?? newSubmission(),
  );
  const latest = useRef<Visit>(visit);
  /** Counts the calls: only the newest one's reply is shown. */
  const turn = useRef(0);
  /** The turn that leads to another page and is under way, else 0. */
  const turning = useRef(0);
  const pause = useRef(0);

  const kept = useCallback(
    (now: Answering): TabDraft => {
      const { page, answers, at } = now;
      return { answers, page: page.key, at, edition: page.edition, submission };
    },
    [submission],
  );

  /** Apply a change at once for the calls that follow in the same turn. */
  const apply = useCallback((event: Change) => {
    latest.current = change(latest.current, event);
    dispatch(event);
  }, []);

  /** The browser's back button leads back from where one is now, if that is somewhere else. */
  const remember = useCallback(() => {
    const now = latest.current;
    if (now.state !== "answering") return;
    const here: Spot = { page: now.page.key, at: now.at };
    const before = window.history.state as Spot | null;
    if (before?.page !== here.page || before.at !== here.at) window.history.pushState(here, "");
  }, []);

  /** To another question of this page, where they are asked one by one. */
  const step = useCallback(
    (at: string) => {
      apply({ kind: "stepped", at });
      remember();
    },
    [apply, remember],
  );

  const fail = useCallback(
    (error: unknown) => {
      if (!(error instanceof ApiError)) throw error;
      apply({ kind: "failed", trouble: troubleOf(error, words), faults: error.faults });
    },
    [apply, words],
  );

  const send = useCallback(async () => {
    const now = latest.current;
    if (now.state !== "answering") return;
    try {
      const finish = await submit(kept(now));
      clearTabDraft();
      apply({ kind: "finished", finish, submission: kept(now).submission });
    } catch (error) {
      const page = error instanceof ApiError ? error.params["page"] : undefined;
      if (typeof page === "string") {
        const there = await askPage(kept(now), "onward", page).catch(() => null);
        if (there?.kind === "page") {
          apply({ kind: "shown", page: there, landing: "first" });
          return;
        }
      }
      fail(error);
    }
  }, [apply, fail, kept]);

  const go = useCallback(
    async (move: Move, at: string, going: Going = {}) => {
      const { record = true, touched = [], item = "", landing = "first" } = going;
      const now = latest.current;
      if (now.state !== "answering") return;
      window.clearTimeout(pause.current);
      const mine = ++turn.current;
      turning.current = move === "stay" ? 0 : mine;
      apply({ kind: "asked" });
      try {
        const reply = await askPage(kept(now), move, at, { item, touched });
        if (mine !== turn.current) return;
        if (reply.kind === "ready") {
          await send();
          return;
        }
        if (reply.kind === "finish") {
          clearTabDraft();
          apply({ kind: "finished", finish: reply, submission: "" });
          return;
        }
        const turned = reply.key !== now.page.key;
        if (move === "stay" && !turned) apply({ kind: "refreshed", page: reply, touched });
        else apply({ kind: "shown", page: reply, landing });
        if (record && (turned || item)) remember();
      } catch (error) {
        if (mine === turn.current) fail(error);
      } finally {
        if (turning.current === mine) turning.current = 0;
      }
    },
    [apply, fail, kept, remember, send],
  );

  /** Ask for the page again, unless it is being turned: that must not be taken back. */
  const ask = useCallback(
    (at: string, touched: readonly string[] = []) => {
      if (!turning.current) void go("stay", at, { record: false, touched });
    },
    [go],
  );

  const answer = useCallback(
    (value: Answer, place: string) => {
      const key = place.split("/")[0] ?? place;
      apply({ kind: "answered", key, answer: value, place });
      const now = latest.current;
      if (now.state !== "answering" || !now.page.watched.includes(key)) return;
      window.clearTimeout(pause.current);
      const again = () => ask(now.page.key);
      if (typeof value === "boolean" || CHOSEN.has(kindAt(now.page, key))) again();
      else pause.current = window.setTimeout(again, TYPING);
    },
    [apply, ask],
  );

  /** Somebody has left a field: what the browser can tell is told, the rest is asked. */
  const leave = useCallback(
    (item: Item, place: string, value: Answer) => {
      const now = latest.current;
      if (now.state !== "answering") return;
      const found = instant(item, value);
      const fault = found && faultOf(item, place, found, words);
      if (fault) apply({ kind: "judged", place, fault });
      const key = place.split("/")[0] ?? place;
      if (!fault && !isEmpty(value) && (item.server || now.page.checked.includes(key))) {
        const touched = placesOf(now.page, key, place);
        ask(now.page.key, touched);
      }
    },
    [apply, ask, words],
  );

  /** Go on with what was saved, in the tab or on the server, in the edition it was begun in. */
  const takeUp = useCallback(
    async (saved: TabDraft) => {
      apply({ kind: "resumed", answers: saved.answers });
      const mine = ++turn.current;
      try {
        const reply = await askPage(saved, "stay", saved.page);
        const landing = { at: saved.at ?? "" };
        if (mine === turn.current && reply.kind === "page")
          apply({ kind: "shown", page: reply, landing });
      } catch (error) {
        if (mine === turn.current) fail(error);
      }
    },
    [apply, fail],
  );

  useEffect(() => {
    const saved = readTabDraft();
    const spot: Spot = { page: saved?.page ?? first.key, at: saved?.at ?? "" };
    window.history.replaceState(spot, "");
    if (!saved) return;
    const same = saved.page === first.key && saved.edition === first.edition;
    if (!same || first.watched.length) void takeUp(saved);
  }, [first, takeUp]);

  useEffect(() => {
    const turn = (event: PopStateEvent) => {
      const spot = event.state as Spot | null;
      const now = latest.current;
      if (!spot || now.state !== "answering") return;
      if (spot.page === now.page.key) apply({ kind: "stepped", at: spot.at });
      else void go("stay", spot.page, { record: false, landing: spot });
    };
    window.addEventListener("popstate", turn);
    return () => window.removeEventListener("popstate", turn);
  }, [apply, go]);

  useEffect(() => {
    if (visit.state === "answering") writeTabDraft(kept(visit));
  }, [visit, kept]);

  /** The same with what the server has, under the name that its submission was given. */
  const resume = useCallback(
    async (saved: TabDraft) => {
      if (saved.submission) setSubmission(saved.submission);
      await takeUp(saved);
    },
    [takeUp],
  );

  const refuse = useCallback(
    (detail: string) => apply({ kind: "failed", trouble: { kind: "refused", detail } }),
    [apply],
  );

  return { visit, answer, leave, go, step, kept, resume, refuse, seed: submission };
}
