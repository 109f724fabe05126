/** The question bank, and a draft's questions that are linked with it. */
import { queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";
import type { Doc, Item, Question } from "../document";
import { duplicate } from "../draft/edits";

export type Banked = Schema<"BankedOut">;

export const bank = queryOptions({
  queryKey: ["bank"],
  queryFn: () => got(client.GET("/api/bank")),
});

const linkOf = ({ id, revision }: Banked) => ({ id, revision });

/** A question of the bank as a new one in `doc`, linked or not. */
export function fromBank(doc: Doc, banked: Banked, linked: boolean): Item {
  const item = duplicate(doc, banked.item) as Question;
  return { ...item, banked: linked ? linkOf(banked) : null };
}

/** `item` with the bank's present wording; its key, its place and its conditions stay. */
export function renewed(doc: Doc, item: Question, banked: Banked): Item {
  const others = {
    ...doc,
    pages: doc.pages.map((page) => ({ ...page, items: without(page, item) })),
  };
  const taken = duplicate(others, banked.item) as Question;
  const { key, shown_when, required_when, width } = item;
  return { ...taken, key, shown_when, required_when, width, banked: linkOf(banked) };
}

const without = (page: Doc["pages"][number], item: Item) =>
  (page.items ?? []).filter(({ key }) => key !== item.key);
