/** What the gate asks of this browser: a name of its own, work, a field that nobody fills in. */
import { inPage } from "../../client/client";
import { randomHex } from "../../client/random";
import { address } from "../address";

interface Asked {
  proof?: number;
  trap?: boolean;
  device?: boolean;
}

/** None where the page is drawn beforehand. */
const { asked = {} } = (typeof window === "undefined" ? {} : (inPage() ?? {})) as {
  asked?: Asked;
};

export const asksDevice = Boolean(asked.device);
export const asksTrap = Boolean(asked.trap);

const name = `jotgate device ${address}`;

/** A name by which this browser is known again at this questionnaire; empty where none is asked
 * for, or its storage is off. */
export function device(): string {
  if (!asked.device) return "";
  try {
    const kept = window.localStorage.getItem(name) ?? randomHex(16);
    window.localStorage.setItem(name, kept);
    return kept;
  } catch {
    return "";
  }
}

let trapped = "";

/** What stands in the field that nobody sees. */
export const inTrap = (): string => trapped;

export function intoTrap(words: string): void {
  trapped = words;
}

function hasZeros(hash: Uint8Array, bits: number): boolean {
  for (let at = 0; at < bits; at += 8) {
    const left = Math.min(bits - at, 8);
    if ((hash[at / 8] ?? 0) >> (8 - left)) return false;
  }
  return true;
}

async function work(key: string, bits: number): Promise<string> {
  const encoder = new TextEncoder();
  for (let from = 0; ; from += 256) {
    const tries = Array.from({ length: 256 }, (_, at) => from + at);
    const hashes = await Promise.all(
      tries.map((one) => crypto.subtle.digest("SHA-256", encoder.encode(`${key}:${one}`))),
    );
    const at = hashes.findIndex((hash) => hasZeros(new Uint8Array(hash), bits));
    if (at >= 0) return String(from + at);
    await new Promise((resume) => setTimeout(resume));
  }
}

const proofs = new Map<string, Promise<string>>();

/** What this browser works out for a submission, once; begun before it is needed. */
export function proof(submission: string): Promise<string> {
  const bits = asked.proof ?? 0;
  if (!bits) return Promise.resolve("");
  const known = proofs.get(submission) ?? work(submission, bits);
  proofs.set(submission, known);
  return known;
}
