/** The order of a list that two people changed: moved by one, added to by the other. */

/** `list` put behind what it stood behind, as far as that is there. */
function inserted(into: readonly string[], list: readonly string[]): string[] {
  const result = [...into];
  const there = new Set(into);
  let after = -1;
  for (const one of list) {
    if (there.has(one)) {
      after = result.indexOf(one);
      continue;
    }
    after += 1;
    result.splice(after, 0, one);
    there.add(one);
  }
  return result;
}

/** The names of `mine` and `theirs` in one order, without what either took out since `base`.
 *
 * What one of them moved stays moved; where both did, mine counts. */
export function order(
  base: readonly string[],
  mine: readonly string[] = base,
  theirs: readonly string[] = base,
  kept: ReadonlySet<string> = new Set(),
): string[] {
  const [known, own, other] = [base, mine, theirs].map((list) => new Set(list));
  const gone = (one: string) =>
    !kept.has(one) && known?.has(one) && !(own?.has(one) && other?.has(one));
  const stayed = base.filter((one) => own?.has(one));
  const moved = mine.filter((one) => known?.has(one)).some((one, at) => one !== stayed[at]);
  const whole = moved ? inserted(mine, theirs) : inserted(theirs, mine);
  return whole.filter((one) => !gone(one));
}
