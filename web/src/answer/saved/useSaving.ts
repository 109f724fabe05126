/** Saves a started entry as people go, and takes it up again when they come back. */
import { useCallback, useEffect, useRef, useState } from "react";

import { isEmpty } from "../../items/answer";
import { isTrial } from "../address";
import { readTabDraft, type TabDraft } from "./tabDraft";
import { cameByLetter, forgetStarted, isStarted, save, saved } from "./savedEntry";
import type { Answering, Visit } from "../visit";

export type Saving = "nothing" | "saved" | "not_saved";

/** Milliseconds without a change after which answers are saved. */
const QUIET = 1000;
/** Milliseconds after which they are saved even if changes do not end. */
const LONGEST = 4000;

export function useSaving(
  visit: Visit,
  kept: (now: Answering) => TabDraft,
  resume: (saved: TabDraft) => Promise<void>,
) {
  const [state, setState] = useState<Saving>("nothing");
  /** Whether the tab holds nothing yet: then what the server has is taken up. */
  const [fresh] = useState(() => readTabDraft() === null);
  const begun = useRef(false);
  const waiting = useRef<TabDraft | null>(null);
  const stopped = useRef(false);
  /** When the first change came that is not saved yet. */
  const since = useRef<number | null>(null);

  useEffect(() => {
    if (begun.current || isTrial) return;
    begun.current = true;
    if (!isStarted() || (!fresh && !cameByLetter)) return;
    void saved().then((found) => {
      if (!found) return;
      void resume(found);
      setState("saved");
    });
  }, [fresh, resume]);

  const flush = useCallback(async () => {
    const now = waiting.current;
    if (!now) return;
    waiting.current = null;
    since.current = null;
    try {
      await save(now);
      setState("saved");
    } catch {
      setState("not_saved");
    }
  }, []);

  const answers = visit.state === "answering" ? visit.answers : null;
  const page = visit.state === "answering" ? visit.page.key : "";
  const first = useRef(answers);
  useEffect(() => {
    if (
      isTrial ||
      stopped.current ||
      visit.state !== "answering" ||
      visit.answers === first.current
    )
      return;
    if (!isStarted() && Object.values(visit.answers).every((one) => isEmpty(one))) return;
    waiting.current = kept(visit);
    since.current ??= Date.now();
    const left = since.current + LONGEST - Date.now();
    const timer = setTimeout(() => void flush(), Math.max(Math.min(QUIET, left), 0));
    return () => clearTimeout(timer);
    // What is saved changes with the answers and the page alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [answers, page, kept, flush]);

  useEffect(() => {
    const leaving = () => void flush();
    window.addEventListener("pagehide", leaving);
    return () => window.removeEventListener("pagehide", leaving);
  }, [flush]);

  const finished = visit.state === "finished";
  useEffect(() => {
    if (!finished) return;
    waiting.current = null;
    void forgetStarted();
  }, [finished]);

  /** Save nothing more: what is there is about to be thrown away. */
  const stop = useCallback(() => {
    stopped.current = true;
    waiting.current = null;
  }, []);

  return { state, flush, stop };
}
