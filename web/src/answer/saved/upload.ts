/** Sending a file in pieces: after a cut it goes on from what has arrived. */
import { asBytes, client, ApiError, got, type Schema } from "../../client/client";
import { NotSent, type Send, type Watching } from "../../items/sending";
import { address, isTrial } from "../address";
import { arrivalInUse } from "../arrival";
import { newSubmission } from "./tabDraft";
import { withRetry } from "../../client/retry";

/** Bytes of one request. */
const PIECE = 1_000_000;

/** Milliseconds to wait after each failure in a row, a minute in all. */
const PAUSES = [500, 1000, 2000, 4000, 8000, 15_000, 30_000];

type Received = Schema<"ReceivedOut">;

async function pause(ms: number, signal: AbortSignal): Promise<void> {
  await new Promise<void>((resume) => {
    const timer = setTimeout(resume, ms);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      resume();
    });
  });
}

/** How to send a file again while the server cannot be reached, telling that it waits. */
function retries({ signal, onProgress }: Watching, share: () => number) {
  return {
    pauses: PAUSES,
    again: (error: ApiError) => error.passing && !signal.aborted,
    wait: (ms: number) => {
      onProgress(share(), true);
      return pause(ms, signal);
    },
  };
}

function piece(id: string, offset: number, body: Blob, signal: AbortSignal): Promise<Received> {
  const language = document.documentElement.lang;
  const params = { path: { address, file_id: id }, query: { offset, language } };
  const sent = { params, signal, ...asBytes(body) };
  return got(client.PUT("/api/public/{address}/files/{file_id}", sent));
}

function received(id: string): Promise<Received> {
  const path = { address, file_id: id };
  return got(client.GET("/api/public/{address}/files/{file_id}", { params: { path } }));
}

/** In a trial nothing is sent: a file is taken for what the browser says it is. */
const unsent: Send = (_, { name, size, type }) =>
  Promise.resolve({ id: newSubmission(), name, size, type });

/** A way to send files for the questions of one edition. */
export function sender(edition: number): Send {
  if (isTrial) return unsent;
  return async (key, file, watching) => {
    const { signal, onProgress } = watching;
    let at = 0;
    const share = () => at / file.size;
    const how = retries(watching, share);
    const language = document.documentElement.lang;
    const body = {
      ...{ edition, item: key, name: file.name, size: file.size, language },
      arrival: arrivalInUse(),
    };
    try {
      const made = await withRetry(
        () =>
          got(client.POST("/api/public/{address}/files", { params: { path: { address } }, body })),
        how,
      );
      let broken = false;
      let there: Received = made;
      while (!there.done) {
        at = there.received;
        onProgress(share(), false);
        there = await withRetry(async () => {
          if (broken) {
            const found = await received(made.id);
            if (found.done) return found;
            at = found.received;
          }
          broken = true;
          const next = await piece(made.id, at, file.slice(at, at + PIECE), signal);
          broken = false;
          return next;
        }, how);
      }
      return there.done;
    } catch (error) {
      throw error instanceof ApiError && !error.passing ? new NotSent(error.message) : error;
    }
  };
}
