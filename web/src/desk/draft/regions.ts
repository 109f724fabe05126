/** F6 goes round: from the track to the script, to the bench, and again; Shift F6 the other way. */
import { useEffect, useRef } from "react";

/** Marks a region of the script. */
const REGION = "data-region";

const STOPS = "button, select, input, textarea, a[href], [tabindex='0']";

function firstStop(region: Element): HTMLElement | null {
  const stops = [...region.querySelectorAll<HTMLElement>(STOPS)];
  return stops.find((one) => one.checkVisibility() && !one.matches(":disabled")) ?? null;
}

export function useRegions(): void {
  /** Where the focus was last in each region: going back there goes on where one was. */
  const left = useRef(new WeakMap<Element, HTMLElement>());
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== "F6") return;
      const regions = [...document.querySelectorAll(`[${REGION}]`)];
      const here = document.activeElement;
      const at = regions.findIndex((one) => one.contains(here));
      if (here instanceof HTMLElement && regions[at]) left.current.set(regions[at], here);
      const step = event.shiftKey ? -1 : 1;
      const next = regions[(at + step + regions.length) % regions.length];
      if (!next) return;
      event.preventDefault();
      const before = left.current.get(next);
      const goesOn = next.getAttribute(REGION) === "script" && before && next.contains(before);
      (goesOn ? before : firstStop(next))?.focus();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
