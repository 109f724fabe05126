/** `next`, with every part of `now` in place of the same one in it: what did not change is the
 * same object still. */
export function shared<T>(now: unknown, next: T): T {
  if (now === next || typeof now !== "object" || typeof next !== "object" || !now || !next) {
    return next;
  }
  if (Array.isArray(now) !== Array.isArray(next)) return next;
  const before = now as Record<string, unknown>;
  const after = next as Record<string, unknown>;
  const names = Object.keys(after);
  const parts = names.map((name) => [name, shared(before[name], after[name])] as const);
  const unchanged =
    names.length === Object.keys(before).length &&
    parts.every(([name, part]) => name in before && part === before[name]);
  if (unchanged) return now as T;
  if (Array.isArray(next)) return parts.map(([, part]) => part) as T;
  return Object.fromEntries(parts) as T;
}
