/** Undo and redo from anywhere; inside a field too, so that order is kept. */
import { useEffect } from "react";

import type { Draft } from "./useDraft";

export function useUndo({ send }: Draft) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      send({ kind: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [send]);
}
