/** Which entries are looked at, as the address says. */
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useCallback, useMemo } from "react";

import { usePlaceId } from "../shell/Place";
import type { TableView } from "../views/view";
import type { Looked } from "./data";

/** What is looked at stands in the address; what an entry is about can stand there alone. */
export function useLooked() {
  const { view, archived = false, entry, about } = useSearch({ from: "/q/$id/entries" });
  const id = usePlaceId();
  const navigate = useNavigate();
  const go = useCallback(
    (next: { view?: TableView; archived?: boolean; entry?: string; about?: undefined }) =>
      void navigate({
        to: "/q/$id/entries",
        params: { id },
        search: (now) => ({ ...now, ...next }),
        replace: true,
      }),
    [id, navigate],
  );
  const looked = useMemo<Looked>(() => {
    const own: TableView = about
      ? { ...view, filter: { op: "is", item: "entry.about", value: about } }
      : (view ?? {});
    return { view: own, archived };
  }, [view, archived, about]);
  return {
    id,
    looked,
    entry,
    setView: useCallback((next: TableView) => go({ view: next, about: undefined }), [go]),
    setArchived: useCallback((next: boolean) => go({ archived: next }), [go]),
    setEntry: useCallback((next: string) => go({ entry: next }), [go]),
  };
}
