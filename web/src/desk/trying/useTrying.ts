/** Whether a draft is tried beside the script, how wide, and what its visitor arrives with. */
import { useCallback, useState } from "react";

import type { Width } from "./Tried";

export function useTrying() {
  const [width, setWidth] = useState<Width | null>(null);
  const [link, setLink] = useState("");
  const toggle = useCallback(() => setWidth((now) => (now ? null : "phone")), []);
  const close = useCallback(() => setWidth(null), []);
  const pane = width && { width, link, onWidth: setWidth, onLink: setLink, onClose: close };
  return { width, toggle, pane };
}
