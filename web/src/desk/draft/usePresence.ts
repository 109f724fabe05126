/** Who else has the draft open, and what they saved; asked for again and again. */
import { createContext, useEffect, useMemo, useRef, useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { randomHex } from "../../client/random";
import { keyAt } from "./follow";
import type { Spot } from "./edits";
import type { Draft } from "./useDraft";

/** Milliseconds between two signs of life. */
const PAUSE = 2500;

export type Present = Schema<"PresentOut">;

/** Who is at an item, a page or a finish, by its key. */
export const Presences = createContext<ReadonlyMap<string, readonly Present[]>>(new Map());

export function usePresence({ id, doc, catchUp }: Draft, spot: Spot): readonly Present[] {
  const [others, setOthers] = useState<readonly Present[]>([]);
  const tab = useMemo(() => randomHex(16), []);
  const at = keyAt(doc, spot);
  const latest = useRef(at);
  useEffect(() => {
    latest.current = at;
  }, [at]);
  useEffect(() => {
    let going = true;
    const ask = async () => {
      try {
        const path = { params: { path: { id } }, body: { tab, at: latest.current } };
        const company = await got(client.POST("/api/questionnaires/{id}/draft/presence", path));
        if (!going) return;
        setOthers((now) =>
          JSON.stringify(now) === JSON.stringify(company.others) ? now : company.others,
        );
        await catchUp(company.revision);
      } catch {
        // Saving tells that the server is away; here the next sign of life will do.
      }
    };
    void ask();
    const timer = setInterval(() => void ask(), PAUSE);
    return () => {
      going = false;
      clearInterval(timer);
    };
  }, [id, tab, catchUp]);
  return others;
}

/** The others by the key of what they have selected. */
export function byPlace(others: readonly Present[]): ReadonlyMap<string, readonly Present[]> {
  const found = new Map<string, Present[]>();
  for (const one of others) found.set(one.at, [...(found.get(one.at) ?? []), one]);
  return found;
}
