/** The two calls of an answering page, tried again while the server is away. */
import { client, Failed, got, type Schema } from "../client/client";
import type { Kept } from "./keep";
import type { Finish, Page } from "./visit";

const address = decodeURIComponent(window.location.pathname.split("/").pop() ?? "");
const PAUSES = [600, 1500, 4000];

async function patiently<T>(call: () => Promise<T>): Promise<T> {
  for (const pause of PAUSES) {
    try {
      return await call();
    } catch (error) {
      const away = error instanceof Failed && (error.status === 0 || error.status >= 500);
      if (!away) throw error;
      await new Promise((resume) => setTimeout(resume, pause));
    }
  }
  return call();
}

/** All that was answered; what was emptied goes along, since a link may have filled it in. */
function sent({ edition, answers }: Kept) {
  return { link: window.location.search.slice(1), edition, answers };
}

export function askPage(
  kept: Kept,
  move: Schema<"PageIn">["move"],
  at: string,
): Promise<Page | Schema<"ReadyOut">> {
  return patiently(() =>
    got(
      client.POST("/api/public/{address}/page", {
        params: { path: { address } },
        body: { ...sent(kept), move, at },
      }),
    ),
  );
}

export function submit(kept: Kept): Promise<Finish> {
  return patiently(() =>
    got(
      client.POST("/api/public/{address}/entries", {
        params: {
          path: { address },
          header: { "idempotency-key": kept.submission },
        },
        body: sent(kept),
      }),
    ),
  );
}
