/** Leading the respondent to a place, also inside entries that are folded away. */
import { createContext } from "react";

import { fieldOf } from "./answer";

export interface Revealed {
  place: string;
}

/** The place that was asked for last; a new object each time. */
export const Reveal = createContext<Revealed>({ place: "" });

const FIELDS = "input:not([type=file]), textarea, select";

/** Put the focus into the field at `place`, or on what stands around it. */
export function focusOn(place: string): void {
  const steps = place.split("/");
  for (let length = steps.length; length > 0; length -= 1) {
    const found = document.getElementById(fieldOf(steps.slice(0, length).join("/")));
    if (!found) continue;
    const field = found.matches(FIELDS) ? found : found.querySelector<HTMLElement>(FIELDS);
    (field ?? found.querySelector<HTMLElement>("button") ?? found).focus();
    found.scrollIntoView({ block: "center" });
    return;
  }
}

/** The same once what has just changed is drawn; in an entry, its first field. */
export function focusSoon(place: string): void {
  requestAnimationFrame(() => requestAnimationFrame(() => focusOn(place)));
}
