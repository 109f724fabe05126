/** The line of places stays in sight while a long page scrolls, where there is room for that. */
import { useCallback, useRef } from "react";

/** Wide and high enough for a line that stays: not on phones, and not enlarged to 400 %. */
export const WIDE = "@media (min-width: 1081px) and (min-height: 600px)";

/** The height of the line that stays, as a length of CSS. */
export const HEAD = "var(--way, 0px)";

/** Tells the page how high the line is: it goes on in a second row where it has much to show. What
 * has not changed is not told again, since all of the page is styled anew by it. */
export function useHeight() {
  const watching = useRef<ResizeObserver | null>(null);
  return useCallback((line: HTMLElement | null) => {
    watching.current?.disconnect();
    const { style } = document.documentElement;
    if (!line) {
      style.removeProperty("--way");
      return;
    }
    watching.current = new ResizeObserver(() => {
      const stays = getComputedStyle(line).position === "sticky";
      const height = `${stays ? line.offsetHeight : 0}px`;
      if (style.getPropertyValue("--way") !== height) style.setProperty("--way", height);
    });
    watching.current.observe(line);
    watching.current.observe(document.documentElement);
  }, []);
}
