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
