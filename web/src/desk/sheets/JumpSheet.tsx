/** Jump (Ctrl K): to any page, question or finish, or to something to do, by a few letters. */
import { Autocomplete, useFilter } from "react-aria-components/Autocomplete";
import { Menu, MenuItem } from "react-aria-components/Menu";
import { Input } from "react-aria-components/Input";
import { Label } from "react-aria-components/Label";
import { SearchField } from "react-aria-components/SearchField";
import styled from "styled-components";

import { fieldBox } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { everyKeyed, KIND_NAMES, say, type Doc } from "../document";
import { fieldId, goTo } from "../draft/fields";

const Sought = styled(Input)`
  ${fieldBox}
  min-height: 38px;
`;

const Places = styled(Menu)`
  max-height: 56vh;
  overflow: auto;
  outline: none;
`;

const Place = styled(MenuItem)`
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  justify-content: space-between;
  padding: 6px 10px;
  border-radius: 3px;
  cursor: pointer;
  outline: none;
  overflow-wrap: anywhere;
  &[data-focused] {
    background: var(--accent-soft);
  }
  small {
    color: var(--ink-2);
    font-size: 13px;
  }
`;

export interface Deed {
  says: string;
  keys: string;
  run: () => void;
}

interface Target {
  id: string;
  says: string;
  about: string;
  go: () => void;
}

/** Everywhere one can go in `doc`, and everything that can be done. */
function targets(doc: Doc, deeds: readonly Deed[]): Target[] {
  const to = (id: string, says: string, about: string) => ({
    id,
    says,
    about,
    go: () => goTo(id),
  });
  return [
    ...deeds.map(({ says, keys, run }) => ({ id: `do ${says}`, says, about: keys, go: run })),
    ...doc.pages.map(({ key, title }, number) =>
      to(fieldId("page", key), say(doc, title) || "Untitled page", `Page ${number + 1}`),
    ),
    ...everyKeyed(doc).map(({ key, text, kind }) =>
      to(fieldId("item", key), say(doc, text) || key, `${KIND_NAMES[kind]}, ${key}`),
    ),
    ...doc.finishes.map(({ key, title }) =>
      to(fieldId("finish", key), say(doc, title) || "Untitled finish", "Finish"),
    ),
  ];
}

interface JumpSheetProps {
  doc: Doc;
  deeds: readonly Deed[];
  onClose: () => void;
}

export function JumpSheet({ doc, deeds, onClose }: JumpSheetProps) {
  const { contains } = useFilter({ sensitivity: "base" });
  const all = targets(doc, deeds);
  const go = (id: string) => {
    onClose();
    // The sheet gives the focus back to where it was first; the jump comes after that.
    window.setTimeout(() => all.find((one) => one.id === id)?.go(), 60);
  };
  return (
    <Sheet title="Jump" open onClose={onClose}>
      <Autocomplete filter={contains}>
        <SearchField autoFocus aria-label="Where to, or what to do">
          <Label style={{ fontWeight: 600 }}>Where to, or what to do</Label>
          <Sought />
        </SearchField>
        <Places
          aria-label="Places and deeds"
          onAction={(id) => go(String(id))}
          renderEmptyState={() => "Nothing is called that."}
        >
          {all.map(({ id, says, about }) => (
            <Place key={id} id={id} textValue={`${says} ${about}`}>
              <span>{says}</span> <small>{about}</small>
            </Place>
          ))}
        </Places>
      </Autocomplete>
    </Sheet>
  );
}
