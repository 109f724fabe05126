/** The focus stays in the field it is in, also when that field is drawn somewhere else. */
import { fieldId, FIELD_KINDS } from "./part";

/** The id of the same field once keys are `renamed`. */
function idAfter(id: string, renamed: ReadonlyMap<string, string>): string {
  const kind = FIELD_KINDS.find((one) => id.startsWith(`${one}-`));
  if (!kind) return id;
  const key = id.slice(kind.length + 1);
  return fieldId(kind, renamed.get(key) ?? key);
}

export function keepFocus(renamed: ReadonlyMap<string, string>, change: () => void): void {
  const before = document.activeElement;
  const typed = before instanceof HTMLTextAreaElement ? before : null;
  const selection = typed && [typed.selectionStart, typed.selectionEnd];
  change();
  if (!typed?.id || !selection) return;
  const after = document.getElementById(idAfter(typed.id, renamed));
  if (!(after instanceof HTMLTextAreaElement) || after === document.activeElement) return;
  after.focus({ preventScroll: true });
  after.setSelectionRange(selection[0] ?? 0, selection[1] ?? 0);
}
