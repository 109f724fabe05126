/** A value that is typed, once it rests. */
import { useEffect, useState } from "react";

/** `value` once it has not changed for so many milliseconds. */
export function useRested(value: string, pause: number): string {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return rested;
}
