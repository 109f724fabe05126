/** The two calls of an answering page, tried again while the server is away. */
import { client, Failed, got, type Schema } from "../client/client";
import { address, isTrial } from "./address";
import type { Kept } from "./keep";
import { patiently } from "./patience";
import type { Finish, Page } from "./visit";

const AWAY = { pauses: [600, 1500, 4000], again: (error: Failed) => error.away };

/** All that was answered; what was emptied goes along, since a link may have filled it in. */
function sent({ edition, answers }: Kept) {
  const language = document.documentElement.lang;
  return { link: window.location.search.slice(1), edition, answers, language };
}

export function askPage(
  kept: Kept,
  move: Schema<"PageIn">["move"],
  at: string,
  touched: readonly string[] = [],
): Promise<Page | Finish | Schema<"ReadyOut">> {
  const body = { ...sent(kept), move, at, touched: [...touched] };
  if (isTrial) {
    const params = { path: { id: address } };
    return patiently(
      () => got(client.POST("/api/questionnaires/{id}/trial/page", { params, body })),
      AWAY,
    );
  }
  return patiently(
    () => got(client.POST("/api/public/{address}/page", { params: { path: { address } }, body })),
    AWAY,
  );
}

export function submit(kept: Kept): Promise<Finish> {
  return patiently(
    () =>
      got(
        client.POST("/api/public/{address}/entries", {
          params: {
            path: { address },
            header: { "idempotency-key": kept.submission },
          },
          body: sent(kept),
        }),
      ),
    AWAY,
  );
}
