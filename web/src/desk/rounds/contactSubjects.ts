/** Contacts as conditions name them: fields, and what was before. */
import { useQuery } from "@tanstack/react-query";

import { BUILT_IN, contactFields, type ContactField } from "../contacts/data";
import type { Kind } from "../document";
import type { Subject } from "../subjects";

const KINDS: Record<NonNullable<ContactField["kind"]>, Kind> = {
  text: "short_text",
  number: "number",
  date: "date",
  yes_no: "yes_no",
  pick: "pick_one",
};

const BEFORE: readonly Subject[] = [
  { key: "before.asked", label: "Rounds asked in before", kind: "number", options: [] },
  { key: "before.last_asked", label: "Last asked", kind: "date", options: [] },
  { key: "before.answered", label: "Entries sent before", kind: "number", options: [] },
  { key: "before.last_answered", label: "Last entry sent", kind: "date", options: [] },
];

/** The fields of contacts, those that every one has first. */
export function useContactFields(): readonly ContactField[] {
  return [...BUILT_IN, ...(useQuery(contactFields).data ?? [])];
}

export function useContactSubjects(): readonly Subject[] {
  const fields = useContactFields().map(({ key, label, kind = "text", options = [] }) => ({
    key,
    label,
    kind: KINDS[kind],
    options: options.map((one) => ({ code: one, label: one })),
  }));
  return [...fields, ...BEFORE];
}
