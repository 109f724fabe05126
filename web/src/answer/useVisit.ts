/** Runs a visit: asks the server, keeps answers, follows the browser's back and forward. */
import { useCallback, useEffect, useReducer, useRef } from "react";

import { Failed, type Schema } from "../client/client";
import type { Answer } from "../items/Question";
import { askPage, submit } from "./ask";
import { forget, keep, newSubmission, recall, type Kept } from "./keep";
import { begin, change, type Answering, type Change, type Page, type Visit } from "./visit";

type Move = Schema<"PageIn">["move"];

function start(first: Page): Answering {
  return begin(first, recall()?.answers ?? {});
}

export function useVisit(first: Page) {
  const [visit, dispatch] = useReducer(change, first, start);
  const submission = useRef(recall()?.submission ?? newSubmission());
  const latest = useRef<Visit>(visit);
  /** Counts the calls: only the newest one's reply is shown. */
  const turn = useRef(0);

  const kept = useCallback((now: Answering): Kept => {
    const { page, answers } = now;
    return {
      answers,
      page: page.key,
      edition: page.edition,
      submission: submission.current,
    };
  }, []);

  /** Apply a change at once for the calls that follow in the same turn. */
  const apply = useCallback((event: Change) => {
    latest.current = change(latest.current, event);
    dispatch(event);
  }, []);

  const fail = useCallback(
    (error: unknown) => {
      if (!(error instanceof Failed)) throw error;
      const away = error.status === 0 || error.status >= 500 || error.status === 429;
      const trouble = {
        kind: away ? "away" : "refused",
        detail: error.message,
      } as const;
      apply({ kind: "failed", trouble, faults: error.faults });
    },
    [apply],
  );

  const send = useCallback(async () => {
    const now = latest.current;
    if (now.state !== "answering") return;
    try {
      const finish = await submit(kept(now));
      forget();
      apply({ kind: "finished", finish });
    } catch (error) {
      const page = error instanceof Failed ? error.params["page"] : undefined;
      if (typeof page === "string") {
        const there = await askPage(kept(now), "onward", page).catch(() => null);
        if (there?.kind === "page") {
          apply({ kind: "shown", page: there });
          return;
        }
      }
      fail(error);
    }
  }, [apply, fail, kept]);

  const go = useCallback(
    async (move: Move, at: string, record = true) => {
      const now = latest.current;
      if (now.state !== "answering") return;
      const mine = ++turn.current;
      apply({ kind: "asked" });
      try {
        const reply = await askPage(kept(now), move, at);
        if (mine !== turn.current) return;
        if (reply.kind === "ready") {
          await send();
          return;
        }
        const turned = reply.key !== now.page.key;
        apply({
          kind: "shown",
          page: reply,
          keepFaults: move === "stay" && !turned,
        });
        if (turned && record) window.history.pushState({ page: reply.key }, "");
      } catch (error) {
        if (mine === turn.current) fail(error);
      }
    },
    [apply, fail, kept, send],
  );

  const answer = useCallback(
    (key: string, value: Answer) => {
      apply({ kind: "answered", key, answer: value });
      const now = latest.current;
      if (now.state === "answering" && now.page.watched.includes(key)) {
        void go("stay", now.page.key);
      }
    },
    [apply, go],
  );

  useEffect(() => {
    const saved = recall();
    window.history.replaceState({ page: saved?.page ?? first.key }, "");
    if (saved && saved.page !== first.key) void go("stay", saved.page, false);
    else if (saved && first.watched.length) void go("stay", first.key, false);
  }, [first, go]);

  useEffect(() => {
    const turn = (event: PopStateEvent) => {
      const page = (event.state as { page?: string } | null)?.page;
      if (page) void go("stay", page, false);
    };
    window.addEventListener("popstate", turn);
    return () => window.removeEventListener("popstate", turn);
  }, [go]);

  useEffect(() => {
    if (visit.state === "answering") keep(kept(visit));
  }, [visit, kept]);

  return { visit, answer, go };
}
