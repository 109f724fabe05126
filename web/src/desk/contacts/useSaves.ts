/** The changes of one contact, saved one after the other, each over what the one before it led to. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { ApiError } from "../../client/client";
import { CONTACTS, putContact, type Contact } from "./data";

const STALE = "Somebody else changed this contact. Reload to see what it is now.";

function wordsOf(error: unknown, field: string): string {
  if (!(error instanceof ApiError)) return String(error);
  if (error.code === "stale") return STALE;
  return error.faults.find(({ at }) => at === field)?.message ?? error.message;
}

export function useSaves(given: Contact) {
  const queries = useQueryClient();
  const [saved, setSaved] = useState(given);
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const revision = useRef(given.revision);
  const waiting = useRef<Promise<unknown>>(Promise.resolve());
  // What was saved here counts until the list was read anew.
  const contact = saved.revision > given.revision ? saved : given;

  /** Whether it could be saved. */
  const save = (field: string, value: string): Promise<boolean> => {
    const known = contact.revision;
    const next = waiting.current.then(async () => {
      try {
        const kept = await putContact(contact.id, {
          revision: Math.max(revision.current, known),
          values: { [field]: value },
        });
        revision.current = kept.revision;
        setSaved(kept);
        setErrors((now) => ({ ...now, [field]: "" }));
        void queries.invalidateQueries({ queryKey: [...CONTACTS, "one", kept.id] });
        return true;
      } catch (error) {
        setErrors((now) => ({ ...now, [field]: wordsOf(error, field) }));
        return false;
      }
    });
    waiting.current = next;
    return next;
  };
  return { contact, errors, save };
}
