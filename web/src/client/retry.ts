/** Calls that are made again while the server is away. */
import { ApiError } from "./client";

interface Retry {
  /** Milliseconds to wait after each failure in a row; after the last one it is over. */
  pauses: readonly number[];
  again: (error: ApiError) => boolean;
  wait?: (ms: number) => Promise<void>;
}

function sleep(ms: number): Promise<void> {
  return new Promise((resume) => setTimeout(resume, ms));
}

export async function withRetry<T>(call: () => Promise<T>, how: Retry): Promise<T> {
  const { pauses, again, wait = sleep } = how;
  for (const pause of pauses) {
    try {
      return await call();
    } catch (error) {
      if (!(error instanceof ApiError) || !again(error)) throw error;
      await wait(pause);
    }
  }
  return call();
}
