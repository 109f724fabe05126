/** What is done on something, for parts that are drawn anew only when what they show is another. */
import { useCallback, useLayoutEffect, useRef } from "react";

/** The same function each time, that does what `act` does by now. */
export function useLatest<Given extends unknown[]>(
  act: (...given: Given) => void,
): (...given: Given) => void {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...given: Given) => latest.current(...given), []);
}
