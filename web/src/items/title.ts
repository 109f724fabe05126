/** What an entry of a roster is called: its title with the entry's own answers filled in. */
import { elseOf, list, map, words, type Answer, type Item, type Line } from "./answer";
import { fill, type Say } from "./words";

/** An answer in a few words; nothing where it has none. */
function brief(item: Item, answer: Answer, say: Say): string {
  if (typeof answer === "boolean") return say(answer ? "yes" : "no");
  const label = (code: Answer) =>
    elseOf(code) ?? item.options?.find((option) => option.code === code)?.label ?? words(code);
  if (Array.isArray(answer)) return list(answer).map(label).join(", ");
  if (item.kind === "name" || item.kind === "address") {
    return (item.parts ?? [])
      .map((part) => words(map(answer)[part] ?? null))
      .join(" ")
      .trim();
  }
  return label(answer);
}

export function titleOf(item: Item, line: Line, say: Say): string {
  if (!item.title) return "";
  const told = (item.items ?? []).map((one) => [one.key, brief(one, line[one.key] ?? null, say)]);
  return fill(item.title, Object.fromEntries(told) as Record<string, string>)
    .replace(/\{\w+\}/g, "")
    .trim();
}
