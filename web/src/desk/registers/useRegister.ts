/** A register that is open: its rows in order, and what others write in it meanwhile. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";

import { randomHex } from "../../client/random";
import {
  removing,
  newsOf,
  orderQuery,
  registerRead,
  removeRows,
  rowsOf,
  writeCells,
  type News,
} from "./data";
import type { TableView } from "../views/view";
import { Grid } from "./grid/Grid";

/** Milliseconds between two looks at what is new. */
const PAUSE = 1200;

export function useGrid(id: string): Grid {
  return useMemo(
    () =>
      new Grid({
        rows: (ids) => rowsOf(id, ids),
        write: (body) => writeCells(id, body),
        remove: (ids, back) => removeRows(id, ids, back),
      }),
    [id],
  );
}

/** Have the grid stand as the view orders it. */
export function useOrder(id: string, grid: Grid, view: TableView) {
  const query = useQuery({
    ...orderQuery(id, view),
    placeholderData: (before) => before,
    refetchOnWindowFocus: false,
  });
  const { data, isPlaceholderData } = query;
  useEffect(() => {
    if (data && !isPlaceholderData) grid.order(data);
  }, [grid, data, isPlaceholderData]);
  return query;
}

export type Others = News["others"];

/** Take in what is new, again and again, and tell the others in which cell one is. */
export function useNews(id: string, grid: Grid, view: TableView, revision: number, ready: boolean) {
  const queries = useQueryClient();
  const [others, setOthers] = useState<Others>([]);
  const tab = useMemo(() => randomHex(16), []);
  const latest = useRef({ view, revision });
  useEffect(() => {
    latest.current = { view, revision };
  }, [view, revision]);
  useEffect(() => {
    if (!ready) return undefined;
    let going = true;
    let busy = false;
    const look = async () => {
      if (busy || removing.has(id) || document.visibilityState === "hidden") return;
      busy = true;
      const { view: now, revision: known } = latest.current;
      const at = grid.active ? `${grid.active.row}/${grid.active.column}` : "";
      try {
        const news = await newsOf(id, now, grid.mark, tab, at);
        if (!going || now !== latest.current.view) return;
        if (news.revision !== known)
          await queries.invalidateQueries({ queryKey: registerRead(id).queryKey });
        else if (news.many)
          await queries.invalidateQueries({ queryKey: ["register", id, "order"] });
        else grid.news(news);
        setOthers((before) =>
          JSON.stringify(before) === JSON.stringify(news.others) ? before : news.others,
        );
      } catch {
        // Writing tells that the server is away; here the next look will do.
      } finally {
        busy = false;
      }
    };
    void look();
    const timer = setInterval(() => void look(), PAUSE);
    return () => {
      going = false;
      clearInterval(timer);
    };
  }, [id, grid, tab, queries, ready]);
  return others;
}
