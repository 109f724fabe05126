/** Keys and codes made from words: short, readable, each its own. */

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

/** Whether `key` still is the one that a new question gets before it has words. */
export function isSpare(key: string): boolean {
  return /^(question|note|value|page|finish|option)(_\d+)?$/.test(key);
}
