/** Keys and codes made from words: short, readable, each its own.
 *
 * `jotgate/core/common/proposed_keys.py` does the same for what is brought in; `web/tests/keys.json` holds both
 * to the same names. */
import { randomHex } from "../client/random";

/** Lower case letters and digits joined by `_`, at most 24 characters, begun by a letter. */
function plain(words: string): string {
  const bare = words
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^[_0-9]+/, "");
  if (bare.length <= 24) return bare.replace(/_+$/, "");
  const cut = bare.slice(0, 25);
  return cut.slice(0, Math.max(cut.lastIndexOf("_"), 8)).replace(/_+$/, "");
}

/** A key from `words` that is not in `taken`; `spare` where the words have no letters. */
export function keyFrom(words: string, taken: ReadonlySet<string>, spare: string): string {
  const wanted = plain(words) || spare;
  if (!taken.has(wanted)) return wanted;
  for (let count = 2; ; count += 1) {
    if (!taken.has(`${wanted}_${count}`)) return `${wanted}_${count}`;
  }
}

export const keysOf = (things: readonly { key: string }[]): Set<string> =>
  new Set(things.map(({ key }) => key));

/** Letters of this tab, so that no two tabs give one key to two new items. */
const tab = Array.from(randomHex(3), (digit) => "bcdfghjkmnpqrstv"[parseInt(digit, 16)]).join("");
let made = 0;

/** A key for a new item until it has words: never given twice, also once the item is gone. */
export function spareKey(noun: string): string {
  made += 1;
  return `${noun}_${made}${tab}`;
}

/** Whether `key` still is the one that a new item gets before it has words. */
export function isSpare(key: string): boolean {
  return /^(question|note|picture|video|value|computed|page|finish|option)(_\d[a-z0-9]*)?$/.test(
    key,
  );
}
