/** The languages that labels can be in. */
import type { TableColumn } from "../entries/data";
import { languageName } from "../languages";

export interface Choice {
  code: string;
  label: string;
}

/** The first is the questionnaire's own; none before it is published. */
export function languagesOf(columns: readonly TableColumn[] = []): Choice[] {
  const found = columns.find(({ key }) => key === "entry.language")?.options ?? [];
  return found.map(({ code }) => ({ code, label: languageName(code) }));
}
