/** Something of a list in another place. */

/** `list` with what stands at `from` at `to`. */
export function movedTo<T>(list: readonly T[], from: number, to: number): T[] {
  const others = list.filter((_, place) => place !== from);
  return [...others.slice(0, to), ...list.slice(from, from + 1), ...others.slice(to)];
}
