/** What opens over the script, and the keys that open it. */
import { lazy, Suspense, useEffect, useState } from "react";

import { BankSheet } from "../bank/BankSheet";
import { itemsOf, type Item } from "../document";
import { addItem, addJotted, type Spot } from "../draft/edits";
import { JotSheet } from "./JotSheet";
import { JumpSheet, type Deed } from "./JumpSheet";
import { fieldId } from "../draft/fields";
import type { ScriptPart } from "../draft/part";

/** Fetched when it is opened first: not everybody moves things about. */
const ArrangeSheet = lazy(() =>
  import("./ArrangeSheet").then((one) => ({ default: one.ArrangeSheet })),
);

export type Open = "jot" | "jump" | "arrange" | "bank" | null;

/** The key, with Alt or Ctrl, that opens each; by the place of the key, whatever it writes. */
const KEYS: Readonly<Record<string, { ctrl: boolean; open: NonNullable<Open> }>> = {
  KeyJ: { ctrl: false, open: "jot" },
  KeyB: { ctrl: false, open: "bank" },
  KeyA: { ctrl: false, open: "arrange" },
  KeyK: { ctrl: true, open: "jump" },
};

export function useOpen(): [Open, (open: Open) => void] {
  const [open, setOpen] = useState<Open>(null);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const wanted = KEYS[event.code];
      const held = wanted?.ctrl ? event.ctrlKey || event.metaKey : event.altKey && !event.ctrlKey;
      if (!wanted || !held) return;
      event.preventDefault();
      setOpen(wanted.open);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  return [open, setOpen];
}

/** Where something new goes: behind what is selected, else at the end of its page. */
function behind({ draft: { doc }, spot }: ScriptPart): { page: number; at: number } {
  const page = spot.on === "page" ? spot.page : doc.pages.length - 1;
  const last = itemsOf(doc.pages[page] ?? { key: "", title: {} }).length;
  return { page, at: spot.on === "page" && spot.item !== null ? spot.item + 1 : last };
}

interface SheetsProps extends ScriptPart {
  open: Open;
  onOpen: (open: Open) => void;
  onTry: () => void;
}

export function ScriptSheets({ open, onOpen, onTry, ...part }: SheetsProps) {
  const { draft, onSpot } = part;
  const [outline, setOutline] = useState("");
  const close = () => onOpen(null);
  const added = (item: Item) => {
    const { page, at } = behind(part);
    draft.edit((now) => addItem(now, page, at, item));
    onSpot({ on: "page", page, item: at } satisfies Spot);
    close();
    window.setTimeout(() => document.getElementById(fieldId("item", item.key))?.focus(), 60);
  };
  const deeds: readonly Deed[] = [
    { says: "Jot several at once", keys: "Alt J", run: () => onOpen("jot") },
    { says: "Add from the question bank", keys: "Alt B", run: () => onOpen("bank") },
    { says: "Arrange pages and items", keys: "Alt A", run: () => onOpen("arrange") },
    { says: "Try it beside the script", keys: "", run: onTry },
  ];
  switch (open) {
    case "jot":
      return (
        <JotSheet
          doc={draft.doc}
          text={outline}
          onText={setOutline}
          onClose={close}
          onAdd={(pages) => {
            const { page, at } = behind(part);
            draft.edit((now) => addJotted(now, page, at, pages));
            setOutline("");
            close();
          }}
        />
      );
    case "jump":
      return <JumpSheet doc={draft.doc} deeds={deeds} onClose={close} />;
    case "arrange":
      return (
        <Suspense fallback={null}>
          <ArrangeSheet doc={draft.doc} onChange={draft.edit} onClose={close} />
        </Suspense>
      );
    case "bank":
      return <BankSheet doc={draft.doc} onAdd={added} onClose={close} />;
    case null:
      return null;
  }
}
