/** The focus stays in the field it is in, also when that field is drawn somewhere else. */
import { fieldId, FIELD_KINDS } from "./fields";

/** The id of the same field once keys are `renamed`. */
function idAfter(id: string, renamed: ReadonlyMap<string, string>): string {
  const kind = FIELD_KINDS.find((one) => id.startsWith(`${one}-`));
  if (!kind) return id;
  const [key = "", ...parts] = id.slice(kind.length + 1).split("/");
  return [fieldId(kind, renamed.get(key) ?? key), ...parts].join("/");
}

/** Where the caret stands in `field`; null where there is none. */
function caretIn(field: Element): readonly [number, number] | null {
  const text = field instanceof HTMLTextAreaElement || field instanceof HTMLInputElement;
  if (!text || field.selectionStart === null || field.selectionEnd === null) return null;
  return [field.selectionStart, field.selectionEnd];
}

/** Draw `change` with the focus where it was. The element that has the focus may be drawn for
 * another field, with another id: which field it was is read before. */
export function keepFocus(renamed: ReadonlyMap<string, string>, change: () => void): void {
  const before = document.activeElement;
  const id = before?.id;
  const caret = before && caretIn(before);
  change();
  if (!id) return;
  const after = document.getElementById(idAfter(id, renamed));
  if (!after || after === document.activeElement) return;
  after.focus({ preventScroll: true });
  if (caret && caretIn(after)) (after as HTMLInputElement).setSelectionRange(...caret);
}
