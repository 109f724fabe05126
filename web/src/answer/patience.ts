/** Calls that are made again while the server is away. */
import { Failed } from "../client/client";

interface Patience {
  /** Milliseconds to wait after each failure in a row; after the last one it is over. */
  pauses: readonly number[];
  again: (error: Failed) => boolean;
  wait?: (ms: number) => Promise<void>;
}

function sleep(ms: number): Promise<void> {
  return new Promise((resume) => setTimeout(resume, ms));
}

export async function patiently<T>(call: () => Promise<T>, how: Patience): Promise<T> {
  const { pauses, again, wait = sleep } = how;
  for (const pause of pauses) {
    try {
      return await call();
    } catch (error) {
      if (!(error instanceof Failed) || !again(error)) throw error;
      await wait(pause);
    }
  }
  return call();
}
