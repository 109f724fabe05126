/** What somebody typed, picked or sent before the page came alive is taken in. */

type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

/** What stood in the field as it came. */
function before(field: Field): string {
  if (!(field instanceof HTMLSelectElement)) return field.defaultValue;
  return [...field.options].find((option) => option.defaultSelected)?.value ?? "";
}

/** Write `value` into `field` past React, so that it sees the change. */
function write(field: Field, value: string): void {
  field.value = before(field);
  const prototype = Object.getPrototypeOf(field) as object;
  Object.getOwnPropertyDescriptor(prototype, "value")?.set?.call(field, value);
  const event = field instanceof HTMLSelectElement ? "change" : "input";
  field.dispatchEvent(new Event(event, { bubbles: true }));
}

function isPicked(field: Field): field is HTMLInputElement {
  return field instanceof HTMLInputElement && field.checked !== field.defaultChecked;
}

/** Remembers what was done in `root`; what it gives, called once React has taken over, does that
 * again. */
export function doneSoFar(root: HTMLElement): () => void {
  const fields = [...root.querySelectorAll<Field>("input, textarea, select")];
  const picked = fields.filter(isPicked);
  const typed = fields
    .filter((field) => field.value !== before(field))
    .map((field) => [field, field.value] as const);
  return () => {
    for (const [field, value] of typed) write(field, value);
    for (const field of picked) {
      field.checked = field.defaultChecked;
      field.click();
    }
    if (document.documentElement.dataset["sent"] !== undefined)
      root.querySelector<HTMLFormElement>("form:not([method=post])")?.requestSubmit();
  };
}
