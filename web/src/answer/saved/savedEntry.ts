/** The started entry on the server, under a secret that this device keeps. */
import { client, got, type Schema } from "../../client/client";
import { address, keptAs } from "../address";
import { arrivalInUse, takeArrival } from "../arrival";
import { randomHex } from "../../client/random";
import type { TabDraft } from "./tabDraft";
import type { Answers } from "../visit";

const name = `jotgate started ${keptAs}`;
const SECRET = /^[0-9a-f]{64}$/;

/** The secret that a letter's link carries behind `#on=`; it is taken out of the address. */
function fromLink(): string | null {
  const found = new URLSearchParams(window.location.hash.slice(1)).get("on");
  if (!found || !SECRET.test(found)) return null;
  window.history.replaceState(
    window.history.state,
    "",
    window.location.pathname + window.location.search,
  );
  return found;
}

function stored(): string | null {
  try {
    return window.localStorage.getItem(name);
  } catch {
    return null;
  }
}

function store(secret: string | null): void {
  try {
    if (secret) window.localStorage.setItem(name, secret);
    else window.localStorage.removeItem(name);
  } catch {
    // Storage is off: the entry can be gone on with in this tab, or by letter.
  }
}

let secret: string | null = null;

/** Whether somebody has come by a letter's link, which counts more than what the tab holds. */
export let cameByLetter = false;

/** Take up the secret that came with a letter's link, or that this device keeps. */
export function arrive(): void {
  const linked = fromLink();
  if (linked) store(linked);
  cameByLetter = linked !== null;
  secret = linked ?? stored();
  // A letter's link that is opened over this same page changes nothing but what is behind `#`.
  window.addEventListener("hashchange", () => {
    if (window.location.hash.includes("on=")) window.location.reload();
  });
}

export function secretInUse(): string {
  return secret ?? "";
}

/** The query string that the started entry was begun with. */
export async function linkOfStarted(): Promise<string | null> {
  try {
    const found = await got(client.GET("/api/public/{address}/started", { params: params() }));
    return found.link ?? "";
  } catch {
    return null;
  }
}

export function isStarted(): boolean {
  return secret !== null;
}

function own(): string {
  if (!secret) {
    secret = randomHex(32);
    store(secret);
  }
  return secret;
}

const params = () => ({ path: { address }, header: { "Started-Token": own() } });

export async function save({ answers, edition, page, submission }: TabDraft): Promise<void> {
  const link = window.location.search.slice(1);
  const arrival = arrivalInUse();
  const body = { answers, edition, page, submission, link, arrival } as Schema<"StartedBody">;
  await got(client.PUT("/api/public/{address}/started", { params: params(), body }));
}

/** What was saved, null where there is nothing any more. */
export async function saved(): Promise<TabDraft | null> {
  if (!secret) return null;
  try {
    const found = await got(client.GET("/api/public/{address}/started", { params: params() }));
    const { edition, page = "", submission = "", answers = {}, arrival } = found;
    takeArrival(arrival);
    return { edition, page, submission, answers: answers as Answers };
  } catch {
    return null;
  }
}

/** Take it back from the server and from this device. */
export async function forgetStarted(): Promise<void> {
  if (!secret) return;
  const header = params();
  store(null);
  secret = null;
  await got(client.DELETE("/api/public/{address}/started", { params: header })).catch(() => null);
}

export async function sendLetter(email: string): Promise<void> {
  const body = { email, language: document.documentElement.lang };
  await got(client.POST("/api/public/{address}/started/letter", { params: params(), body }));
}
