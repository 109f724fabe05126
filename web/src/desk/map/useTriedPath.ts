/** The way that the answers in the page beside take through the draft, as they are chosen. */
import { useEffect, useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { tabDraftOf } from "../trying/Tried";

/** Milliseconds between two looks at what has been answered. */
const EVERY = 700;

export function useTriedPath(id: string, link: string, trying: boolean): Schema<"PathOut"> | null {
  const [path, setPath] = useState<Schema<"PathOut"> | null>(null);
  useEffect(() => {
    if (!trying) return;
    let seen = "";
    let current = true;
    const look = () => {
      const answers = (tabDraftOf(id)?.answers ?? {}) as Record<string, unknown>;
      const now = JSON.stringify(answers);
      if (now === seen) return;
      seen = now;
      void got(
        client.POST("/api/questionnaires/{id}/draft/proof/path", {
          params: { path: { id } },
          body: { link, answers },
        }),
      )
        .then((found) => {
          if (current) setPath(found);
        })
        .catch(() => {
          // Asked again with the next answer; until then the last way stays.
        });
    };
    look();
    const timer = setInterval(look, EVERY);
    return () => {
      current = false;
      clearInterval(timer);
      setPath(null);
    };
  }, [id, link, trying]);
  return path;
}
