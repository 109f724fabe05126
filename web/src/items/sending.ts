/** How a question sends files; the answering page and the rehearsal each have their own way. */
import { createContext } from "react";

/** A file that the server has and has looked at. */
export interface Sent {
  id: string;
  name: string;
  size: number;
  type: string;
}

/** The server will not take the file; the message is for the respondent. */
export class NotSent extends Error {}

export interface Watching {
  signal: AbortSignal;
  /** The share that has arrived, and whether it waits for the connection. */
  onProgress: (share: number, waiting: boolean) => void;
}

/** Sends a file for the question `key`. Rejects with NotSent where it is not taken. */
export type Send = (key: string, file: File, watching: Watching) => Promise<Sent>;

export const Senders = createContext<Send>(() => Promise.reject(new NotSent("")));

/** Told of every file on its way, so that nobody goes on before it has arrived. */
export const Busy = createContext({ begin: () => {}, end: () => {} });
