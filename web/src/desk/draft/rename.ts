/** Giving an item another key, in everything that names it as well. */
import { everyKeyed, say, type Doc, type Text } from "../document";
import { isSpare, keyFrom, keysOf } from "../keys";

/** The members of a document that name an item by its key. */
export const NAMING = new Set(["item", "left", "right", "since", "until"]);
export const LISTING = new Set(["of", "totals"]);

/** `part` with every name of `from` as `to`. */
export function renamed<T>(part: T, from: string, to: string): T {
  if (Array.isArray(part)) return part.map((one: unknown) => renamed(one, from, to)) as T;
  if (typeof part !== "object" || part === null) return part;
  return Object.fromEntries(
    Object.entries(part).map(([name, value]: [string, unknown]) => {
      const other = value === from ? to : value;
      if (NAMING.has(name) || (name === "key" && "kind" in part)) return [name, other];
      if (LISTING.has(name) && Array.isArray(value)) {
        return [name, value.map((one: unknown) => (one === from ? to : one))];
      }
      if (name === "points") return [name, renamedKeys(value as object, from, to)];
      if (name === "title" && "noun" in part) return [name, inSlots(value as Text, from, to)];
      return [name, renamed(value, from, to)];
    }),
  ) as T;
}

function renamedKeys(points: object, from: string, to: string): object {
  return Object.fromEntries(
    Object.entries(points).map(([key, value]: [string, unknown]) => [
      key === from ? to : key,
      value,
    ]),
  );
}

function inSlots(text: Text, from: string, to: string): Text {
  return Object.fromEntries(
    Object.entries(text).map(([language, words]) => [language, inSlot(words, from, to)]),
  );
}

const inSlot = (words: string, from: string, to: string) =>
  words.replaceAll(`{${from}}`, `{${to}}`);

/** Give an item another key, in everything that names it as well. */
export function renameKey(doc: Doc, from: string, to: string): Doc {
  const finishes = doc.finishes.map((finish) => ({
    ...finish,
    ...(finish.message ? { message: inSlots(finish.message, from, to) } : {}),
    ...(finish.link
      ? { link: { ...finish.link, address: inSlot(finish.link.address ?? "", from, to) } }
      : {}),
    ...(finish.sets ? { sets: renamedKeys(finish.sets, from, to) as Record<string, string> } : {}),
  }));
  const saved = doc.saved ? { saved: renamed(doc.saved, from, to) } : {};
  return { ...doc, pages: renamed(doc.pages, from, to), finishes, ...saved };
}

/** Once a question has words, give it a key made from them in place of the spare one. */
export function settleKey(doc: Doc, key: string): Doc {
  if (!isSpare(key)) return doc;
  const items = everyKeyed(doc);
  const words = say(doc, items.find((item) => item.key === key)?.text);
  if (!words.trim()) return doc;
  const taken = keysOf(items);
  taken.delete(key);
  return renameKey(doc, key, keyFrom(words, taken, key));
}

/** Give a page another key, in the skip rules that lead there as well. */
export function renamePage(doc: Doc, from: string, to: string): Doc {
  const pages = doc.pages.map((page) => ({
    ...page,
    key: page.key === from ? to : page.key,
    skips: (page.skips ?? []).map((skip) =>
      skip.to.kind === "page" && skip.to.page === from
        ? { ...skip, to: { ...skip.to, page: to } }
        : skip,
    ),
  }));
  return { ...doc, pages };
}

/** Give a finish another key, in the skip rules that lead there as well. */
export function renameFinish(doc: Doc, from: string, to: string): Doc {
  const finishes = doc.finishes.map((one) => (one.key === from ? { ...one, key: to } : one));
  const pages = doc.pages.map((page) => ({
    ...page,
    skips: (page.skips ?? []).map((skip) =>
      skip.to.kind === "finish" && skip.to.finish === from
        ? { ...skip, to: { ...skip.to, finish: to } }
        : skip,
    ),
  }));
  return { ...doc, pages, finishes };
}
