/** What a way into a questionnaire can bring, and what a visitor can do with each value. */
import { KINDS } from "../../client/kinds";
import { isCarried, sourcesOf } from "../carried";
import { everyItem, isQuestion, say, type Doc, type Item } from "../document";
import { staffName } from "../subjects";

export type Values = readonly (readonly [string, string])[];

/** One thing that can be given: a key, or a key with its part. */
export interface Slot {
  name: string;
  label: string;
  item: Item;
  options: readonly { code: string; label: string }[];
}

const STORED = new Set(["link", "pass"]);

/** Whether `item` can come by a way that is kept, or with the address itself. */
function canBring(item: Item, stored: boolean): boolean {
  if (!KINDS[item.kind].byLink) return false;
  if (!isCarried(item)) return isQuestion(item);
  return sourcesOf(item).some(({ kind }) => (stored ? STORED.has(kind) : kind === "link"));
}

const PARTS: Record<string, string> = {
  title: "title",
  given: "given name",
  family: "family name",
  suffix: "suffix",
  street: "street",
  more: "more",
  city: "town",
  region: "region",
  postcode: "postcode",
  country: "country",
};

export function slotsOf(doc: Doc, stored: boolean): Slot[] {
  return everyItem(doc)
    .filter((item) => canBring(item, stored))
    .flatMap((item): Slot[] => {
      const label = staffName(doc, item);
      const options =
        "options" in item
          ? (item.options ?? []).map((one) => ({
              code: one.code,
              label: say(doc, one.label) || one.code,
            }))
          : item.kind === "yes_no"
            ? YES_NO
            : [];
      if (item.kind !== "name" && item.kind !== "address")
        return [{ name: item.key, label, item, options }];
      return (item.parts ?? []).map((part) => ({
        name: `${item.key}.${part}`,
        label: `${label}, ${PARTS[part] ?? part}`,
        item,
        options: [],
      }));
    });
}

const YES_NO = [
  { code: "yes", label: "Yes" },
  { code: "no", label: "No" },
];

/** Which of the slots stand in the form before anybody asks for them. */
export const isCarriedSlot = ({ item }: Slot): boolean => isCarried(item);

/** Whether any text that visitors read speaks of an item, or names by it what the entry is about. */
function isTold(doc: Doc, key: string): boolean {
  const texts = JSON.stringify(doc, (name, value: unknown) => (name === "address" ? "" : value));
  return new RegExp(`\\{${key}[.|}]`).test(texts);
}

/** What a visitor can do with a value that comes this way, in words. */
export function verdict(doc: Doc, { item }: Slot, stored: boolean): string {
  const carried = isCarried(item);
  if (!stored) {
    const seen = carried && item.shown === "locked" ? "It is shown locked, but" : "It";
    return `${seen} stands in the address: whoever holds that can read and change it.`;
  }
  if (!carried) return "It is filled in: the visitor reads it and can change it.";
  const isSaid = isTold(doc, item.key);
  if (item.sealed) {
    return isSaid
      ? "Sealed, but texts tell it: the visitor reads it and cannot change it."
      : "Sealed: the visitor can neither read nor change it.";
  }
  if (item.shown === "changeable") return "It is shown: the visitor reads it and can change it.";
  if (item.shown === "locked")
    return "It is shown locked: the visitor reads it and cannot change it.";
  if (isSaid) return "Texts tell it: the visitor reads it and cannot change it.";
  return "It stays with us: the visitor does not see it and cannot change it.";
}

/** The address with values behind it, as the URL standard writes them. */
export function withValues(address: string, values: Values): string {
  const query = new URLSearchParams(values.map(([name, text]) => [name, text])).toString();
  return query ? `${address}?${query}` : address;
}

/** Values as the server takes them. */
export const given = (values: Values) => values.map(([name, text]) => ({ name, text }));

/** A value as a person reads it. */
export function said(slots: readonly Slot[], [name, text]: readonly [string, string]): string {
  const slot = slots.find((one) => one.name === name);
  const option = slot?.options.find(({ code }) => code === text);
  return option?.label ?? text;
}
