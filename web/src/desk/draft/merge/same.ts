/** Whether two values of JSON are the same; what they share is not looked at. */
export function same(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return false;
  if (Array.isArray(one) || Array.isArray(other)) {
    if (!Array.isArray(one) || !Array.isArray(other) || one.length !== other.length) return false;
    return one.every((part, at) => same(part, other[at]));
  }
  const [mine, theirs] = [Object.entries(one), Object.keys(other)];
  if (mine.length !== theirs.length) return false;
  return mine.every(([name, part]) => same(part, (other as Record<string, unknown>)[name]));
}

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
