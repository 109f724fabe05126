/** Moving several items at once: document to document. */
import { itemsOf, type Doc } from "../document";

/** A place: on a page, before an item of it, or at its end. */
export interface Before {
  page: string;
  item: string | null;
}

/** `doc` with the items of `keys`, in their order, at `place`; the same where there is no such page. */
export function moveTo(doc: Doc, keys: ReadonlySet<string>, { page, item }: Before): Doc {
  if (!doc.pages.some(({ key }) => key === page)) return doc;
  const moved = doc.pages.flatMap(itemsOf).filter(({ key }) => keys.has(key));
  return {
    ...doc,
    pages: doc.pages.map((one) => {
      const items = itemsOf(one);
      if (one.key !== page) {
        const left = items.filter(({ key }) => !keys.has(key));
        return left.length === items.length ? one : { ...one, items: left };
      }
      const at = item === null ? items.length : items.findIndex(({ key }) => key === item);
      const stays = ({ key }: { key: string }) => !keys.has(key);
      const [before, after] = [items.slice(0, at), items.slice(at)];
      return { ...one, items: [...before.filter(stays), ...moved, ...after.filter(stays)] };
    }),
  };
}

/** `doc` with the pages of `keys`, in their order, before the page `before`, or at the end. */
export function pagesTo(doc: Doc, keys: ReadonlySet<string>, before: string | null): Doc {
  const moves = ({ key }: { key: string }) => keys.has(key);
  const at = before === null ? doc.pages.length : doc.pages.findIndex(({ key }) => key === before);
  if (at < 0) return doc;
  const [above, below] = [doc.pages.slice(0, at), doc.pages.slice(at)];
  const stays = (page: { key: string }) => !moves(page);
  return {
    ...doc,
    pages: [...above.filter(stays), ...doc.pages.filter(moves), ...below.filter(stays)],
  };
}
