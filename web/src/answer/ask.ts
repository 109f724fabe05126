/** The two calls of an answering page, tried again while the server is away. */
import { client, ApiError, got, type Schema } from "../client/client";
import { address, isTrial } from "./address";
import { arrivalInUse } from "./arrival";
import { device, inTrap, proof } from "./gate/asked";
import type { TabDraft } from "./saved/tabDraft";
import { withRetry } from "../client/retry";
import type { Finish, Page } from "./visit";

const AWAY = { pauses: [600, 1500, 4000], again: (error: ApiError) => error.away };

/** All that was answered; what was emptied goes along, since a link may have filled it in. */
function sent({ edition, answers }: TabDraft) {
  const language = document.documentElement.lang;
  const link = window.location.search.slice(1);
  return { link, edition, answers, language, arrival: arrivalInUse(), device: device() };
}

interface Asking {
  /** The question of the page that was answered last, where they are asked one by one. */
  item?: string;
  /** The places whose failures are wanted on staying. */
  touched?: readonly string[];
}

export function askPage(
  kept: TabDraft,
  move: Schema<"PageIn">["move"],
  at: string,
  { item = "", touched = [] }: Asking = {},
): Promise<Page | Finish | Schema<"ReadyOut">> {
  const { submission } = kept;
  const body = { ...sent(kept), move, at, item, touched: [...touched], submission };
  if (isTrial) {
    const params = { path: { id: address } };
    return withRetry(
      () => got(client.POST("/api/questionnaires/{id}/trial/page", { params, body })),
      AWAY,
    );
  }
  return withRetry(
    () => got(client.POST("/api/public/{address}/page", { params: { path: { address } }, body })),
    AWAY,
  );
}

export async function submit(kept: TabDraft): Promise<Finish> {
  const body = { ...sent(kept), proof: await proof(kept.submission), trap: inTrap() };
  return withRetry(
    () =>
      got(
        client.POST("/api/public/{address}/entries", {
          params: {
            path: { address },
            header: { "idempotency-key": kept.submission },
          },
          body,
        }),
      ),
    AWAY,
  );
}
