/** Calls to the server, typed from its own description, and their failures as one error. */
import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Schema<Name extends keyof Schemas> = Schemas[Name];

export type Fault = Schema<"Fault">;
export type Problem = Schema<"Problem">;

/** A failed call. `status` is 0 where no answer came. */
export class ApiError extends Error {
  readonly status: number;
  readonly code: string;
  readonly faults: readonly Fault[];
  readonly params: Record<string, unknown>;

  constructor(status: number, problem: Partial<Problem>) {
    super(problem.detail ?? "The server does not answer. Check the connection and try again.");
    this.status = status;
    this.code = problem.code ?? "away";
    this.faults = problem.faults ?? [];
    this.params = problem.params ?? {};
  }

  /** Whether the server did not answer, or could not. */
  get away(): boolean {
    return this.status === 0 || this.status >= 500;
  }

  /** Whether the same call can go well in a while. */
  get passing(): boolean {
    return this.away || this.status === 429;
  }
}

let csrf = "";

/** Remember the token that every change must carry. */
export function rememberToken(token: string): void {
  csrf = token;
}

export const client = createClient<paths>({
  fetch: async (request) => {
    if (request.method !== "GET" && csrf) request.headers.set("X-CSRF-Token", csrf);
    try {
      return await fetch(request);
    } catch {
      throw new ApiError(0, {});
    }
  },
});

interface Reply<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** What a call answers, or ApiError. */
export async function got<T>(call: Promise<Reply<T>>): Promise<T> {
  const { data, error, response } = await call;
  if (response.ok) return data as T;
  throw new ApiError(response.status, error ?? {});
}

/** The options of a call whose body is a file itself; the API describes those as having none. */
export function asBytes(body: Blob) {
  return {
    body: body as never,
    bodySerializer: (blob: unknown) => blob as Blob,
    headers: { "Content-Type": "application/octet-stream" },
  };
}

/** The data that the server put into the page, null where there is none. */
export function inPage(): unknown {
  const text = document.getElementById("first")?.textContent ?? "null";
  return JSON.parse(text) as unknown;
}
