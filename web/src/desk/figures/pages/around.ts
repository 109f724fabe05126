/** What a page to share can be made of. */
import { subjectsOf } from "../../entries/columns";
import type { TableColumn } from "../../entries/data";
import type { Subject } from "../../subjects";
import { languagesOf, type Choice } from "../languages";

export interface Around {
  /** Those whose answers everybody may read who reads entries. */
  questions: readonly Choice[];
  languages: readonly Choice[];
  subjects: readonly Subject[];
}

export function aroundOf(columns: readonly TableColumn[]): Around {
  const open = columns.filter(({ restricted }) => !restricted);
  return {
    questions: open.filter(({ fact }) => !fact).map(({ key, label }) => ({ code: key, label })),
    languages: languagesOf(columns),
    subjects: subjectsOf(open),
  };
}
