/** What staff read for an item: its short name, else one that its wording proposes.
 *
 * `jotgate/core/items/staff_names.py` proposes the same; `web/tests/staff_names.json` holds both
 * to it. */

/** Characters of a name that is proposed. */
const LONGEST = 40;

/** The first sentence without its mark, cut between two words where it is long. */
export function proposed(wording: string): string {
  const words = wording.replaceAll("*", "").split(/\s+/u).filter(Boolean).join(" ");
  const first = /^[^?!.:؟。？！：]*/u.exec(words)?.[0].trim();
  const letters = Array.from(first ?? "").length ? Array.from(first ?? "") : Array.from(words);
  if (letters.length <= LONGEST) return letters.join("");
  let cut = letters.slice(0, LONGEST - 1).join("");
  if (letters[LONGEST - 1] !== " " && cut.includes(" ")) cut = cut.slice(0, cut.lastIndexOf(" "));
  return `${cut.replace(/[ ,;]+$/u, "")}…`;
}
