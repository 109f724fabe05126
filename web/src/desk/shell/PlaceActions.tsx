/** Puts a place's own buttons at the end of the line of stations. */
import { useSyncExternalStore, type ReactNode } from "react";
import { createPortal } from "react-dom";

import { PLACE_ACTIONS } from "./Place";

const never = () => () => undefined;

export function PlaceActions({ children }: { children: ReactNode }) {
  const target = useSyncExternalStore(never, () => document.getElementById(PLACE_ACTIONS));
  return target ? createPortal(children, target) : null;
}
