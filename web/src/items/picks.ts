/** Picking of many, with options that exclude the others. */

interface Pickable {
  code: string;
  alone?: boolean;
}

/** The picks after a change from `before` to `after`: a new one that stands alone ends the others,
 * and a new one beside it ends that. */
export function pick(
  options: readonly Pickable[],
  before: readonly string[],
  after: readonly string[],
): readonly string[] {
  const alone = new Set(options.filter((option) => option.alone).map(({ code }) => code));
  const added = after.filter((code) => !before.includes(code));
  if (added.some((code) => alone.has(code))) return added.filter((code) => alone.has(code));
  return added.length ? after.filter((code) => !alone.has(code)) : after;
}
