/** What pages ask for by themselves does not keep a session open while nobody does anything. */
import { client } from "../client/client";

/** Milliseconds without doing anything from which requests say so. */
const IDLE = 60_000;

let lastDone = Date.now();

export function tellIdleness(): void {
  for (const kind of ["pointerdown", "keydown"]) {
    window.addEventListener(kind, () => (lastDone = Date.now()), { passive: true, capture: true });
  }
  client.use({
    onRequest: ({ request }) => {
      if (Date.now() - lastDone > IDLE) request.headers.set("X-Idle", "1");
    },
  });
}
