/** Which field of the script is in sight, and has the cursor when it is opened. */
import { useEffect, useRef, useState } from "react";

import { itemsOf, type Doc } from "../document";
import { fieldId, goTo } from "../draft/fields";
import type { Width } from "../trying/Tried";

/** The first line of a questionnaire in which nothing is asked yet, null for any other. */
function firstLine({ pages: [page, ...others] }: Doc): string | null {
  return page && !others.length && !itemsOf(page).length ? fieldId("page", page.key) : null;
}

/** Puts the cursor into the first line of a new questionnaire. */
export function useFirstLine(doc: Doc): void {
  const [line] = useState(() => firstLine(doc));
  useEffect(() => {
    if (line) goTo(line);
  }, [line]);
}

/** Keeps the field `id` in sight when the column beside the script gets another width. */
export function useInSight(id: string, beside: Width | null): void {
  const latest = useRef(id);
  useEffect(() => {
    latest.current = id;
  }, [id]);
  useEffect(() => {
    document.getElementById(latest.current)?.scrollIntoView({ block: "nearest" });
  }, [beside]);
}
