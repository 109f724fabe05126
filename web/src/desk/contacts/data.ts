/** What the contacts ask for, and what they change. */
import { queryOptions } from "@tanstack/react-query";

import { asBytes, client, got, type Schema } from "../../client/client";
import { untilEnded } from "../work";

export type Contact = Schema<"ContactOut">;
export type ContactField = Schema<"ContactField">;
export type ContactList = Schema<"ContactListOut">;

export const CONTACTS = ["contacts"] as const;
export const LISTS = ["contact lists"] as const;
export const FIELDS = ["contact fields"] as const;

/** The fields that every contact has, in the order in which they are shown. */
export const BUILT_IN: readonly ContactField[] = [
  { key: "name", label: "Name" },
  { key: "email", label: "Mail address" },
  { key: "key", label: "Key" },
  { key: "phone", label: "Phone" },
  { key: "language", label: "Language" },
];

/** Contacts that are looked for: those with `words` in them, on a list, with whom nothing was done
 * for so many days. */
export interface Wanted {
  words: string;
  list: string;
  unused: number;
}

export const contactPage = ({ words, list, unused }: Wanted, after: string | null) =>
  got(
    client.GET("/api/contacts", {
      params: {
        query: {
          words,
          ...(list ? { list } : {}),
          ...(unused ? { unused } : {}),
          ...(after ? { after } : {}),
        },
      },
    }),
  );

export type NoLettersPage = Schema<"NoLettersOut">;
export const NO_LETTERS = ["no letters"] as const;

export const noLetters = (words: string, after: string) =>
  got(client.GET("/api/no-letters", { params: { query: { words, after } } }));

export const setNoLetters = (body: Schema<"NoLetterIn">) =>
  got(client.PUT("/api/no-letters", { body }));

export const bringNoLetters = (body: Schema<"NoLettersIn">) =>
  got(client.POST("/api/no-letters/bring", { body }));

export const wholeContact = (id: string) =>
  queryOptions({
    queryKey: [...CONTACTS, "one", id],
    queryFn: () => got(client.GET("/api/contacts/{id}", { params: { path: { id } } })),
  });

export const contactLists = queryOptions({
  queryKey: LISTS,
  queryFn: () => got(client.GET("/api/contact-lists")),
});

export const contactFields = queryOptions({
  queryKey: FIELDS,
  queryFn: () => got(client.GET("/api/contact-fields")),
});

export const addContact = (body: Schema<"ContactIn">) =>
  got(client.POST("/api/contacts", { body }));

export const putContact = (id: string, body: Schema<"ContactPut">) =>
  got(client.PUT("/api/contacts/{id}", { params: { path: { id } }, body }));

export const mergeContacts = (id: string, body: Schema<"MergeIn">) =>
  got(client.POST("/api/contacts/{id}/merge", { params: { path: { id } }, body }));

export const setOptedOut = (id: string, out: boolean) =>
  got(client.PUT("/api/contacts/{id}/opted-out", { params: { path: { id } }, body: { out } }));

export const removeContacts = (ids: string[]) =>
  got(client.POST("/api/contacts/removal", { body: { ids } }));

export const addList = (name: string) => got(client.POST("/api/contact-lists", { body: { name } }));

export const putList = (id: string, name: string) =>
  got(client.PUT("/api/contact-lists/{id}", { params: { path: { id } }, body: { name } }));

export const removeList = (id: string) =>
  got(client.DELETE("/api/contact-lists/{id}", { params: { path: { id } } }));

export const changeMembers = (id: string, ids: string[], on: boolean) =>
  got(
    client.POST("/api/contact-lists/{id}/contacts", {
      params: { path: { id } },
      body: { ids, on },
    }),
  );

export const addField = (body: ContactField) => got(client.POST("/api/contact-fields", { body }));

export const putField = (body: ContactField) => got(client.PUT("/api/contact-fields", { body }));

export const removeField = (key: string) =>
  got(client.DELETE("/api/contact-fields/{key}", { params: { path: { key } } }));

export const bringTable = (file: File) =>
  got(
    client.POST("/api/contact-tables", {
      params: { query: { name: file.name } },
      ...asBytes(file),
    }),
  );

export const lookAtTable = (body: Schema<"TableLookIn">) =>
  got(client.POST("/api/contact-tables/look", { body }));

export const bringContacts = (body: Schema<"BringIn">) =>
  got(client.POST("/api/contact-tables/bring", { body }));

/** Work under way: asked for until it has ended. */
export const contactWork = (id: string) =>
  queryOptions({
    queryKey: ["contact work", id],
    queryFn: () =>
      got(client.GET("/api/contact-tables/work/{work_id}", { params: { path: { work_id: id } } })),
    refetchInterval: untilEnded,
    gcTime: 0,
  });

export const exportAddress = (words: string, list: string) =>
  `/api/contacts/export?${new URLSearchParams({ words, ...(list ? { list } : {}) }).toString()}`;
