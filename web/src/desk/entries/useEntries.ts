/** The entries that are looked at: read page by page, with those that arrive meanwhile. */
import { useInfiniteQuery, useQueryClient, type InfiniteData } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";

import { entriesKey, entryPages, pageOf, type Entry, type Looked, type Page } from "./data";

/** Milliseconds between two looks at what has arrived. */
const PAUSE = 3000;

/** Entries are told again from so many numbers back: one can be stored before the one below it. */
const OVERLAP = 50;

/** So many new ones are put in; with more the table is read anew. */
const MOST_NEW = 100;

type Pages = InfiniteData<Page, string>;

const NONE: ReadonlySet<string> = new Set();

export function useEntries(id: string, looked: Looked) {
  const query = useInfiniteQuery(entryPages(id, looked));
  const pages = query.data?.pages;
  const entries = useMemo(() => pages?.flatMap((page) => page.entries) ?? [], [pages]);
  return { query, entries, head: pages?.[0] };
}

/** Whether entries stand with the newest first, so that those that arrive stand above. */
export const newestFirst = ({ view }: Looked): boolean => !view.sort?.length && !view.group;

/**
 * Puts entries that arrive above those that are there, where that is their place; else tells how
 * many have come. `fresh` are the ids of those that were put in, `above` is how many that were.
 */
export function useArrivals(
  id: string,
  looked: Looked,
  entries: readonly Entry[],
  head: Page | undefined,
) {
  const queries = useQueryClient();
  const [fresh, setFresh] = useState<ReadonlySet<string>>(NONE);
  const [above, setAbove] = useState(0);
  const [waiting, setWaiting] = useState({ of: "", count: 0 });
  const latest = useRef({ looked, entries });
  useEffect(() => {
    latest.current = { looked, entries };
  }, [looked, entries]);
  const key = JSON.stringify(entriesKey(id, looked));
  const since = head?.highest;
  const highest = useRef(0);
  useEffect(() => {
    highest.current = since ?? 0;
  }, [key, since]);
  useEffect(() => {
    if (since === undefined) return undefined;
    let going = true;
    let busy = false;
    const take = async (now: Looked, page: Page, begun: number) => {
      const known = new Set(latest.current.entries.map((one) => one.id));
      const added = page.entries.filter((one) => !known.has(one.id));
      highest.current = Math.max(highest.current, page.highest);
      if (!newestFirst(now)) {
        const later = added.filter(({ number }) => number > begun).length;
        setWaiting({ of: `${key} ${since}`, count: later });
        highest.current = begun;
      } else if (page.next !== null && added.length >= MOST_NEW) {
        await queries.resetQueries({ queryKey: entriesKey(id, now) });
      } else if (added.length) {
        queries.setQueryData<Pages>(entriesKey(id, now), (before) => withNew(before, added));
        setFresh((before) => new Set([...before, ...added.map((one) => one.id)]));
        setAbove((before) => before + added.length);
        await queries.invalidateQueries({ queryKey: ["entries", id, "count"] });
      }
    };
    const look = async () => {
      if (busy || document.visibilityState === "hidden") return;
      busy = true;
      const { looked: now } = latest.current;
      const begun = highest.current;
      try {
        const page = await pageOf(id, now, "", Math.max(0, begun - OVERLAP));
        if (going && now === latest.current.looked) await take(now, page, begun);
      } catch {
        // The next look will do.
      } finally {
        busy = false;
      }
    };
    const timer = setInterval(() => void look(), PAUSE);
    return () => {
      going = false;
      clearInterval(timer);
    };
  }, [id, queries, key, since]);
  return { fresh, above, waiting: waiting.of === `${key} ${since}` ? waiting.count : 0 };
}

function withNew(before: Pages | undefined, added: readonly Entry[]): Pages | undefined {
  const [first, ...rest] = before?.pages ?? [];
  if (!before || !first) return before;
  const entries = [...added, ...first.entries].sort((one, other) => other.number - one.number);
  const total = first.total + added.length;
  return { ...before, pages: [{ ...first, entries, total }, ...rest] };
}
