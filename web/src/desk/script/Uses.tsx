/** What refers to an item, and the question what becomes of that when it is deleted. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { count, type Doc } from "../document";
import { fieldId } from "./part";
import { usedBy, withoutUses, type Use } from "./references";
import { Section } from "./Section";

const List = styled.ul`
  display: grid;
  gap: 4px;
  overflow-wrap: anywhere;
  button {
    justify-content: start;
    text-align: start;
    font-weight: 500;
  }
`;

export function UsedBy({ uses }: { uses: readonly Use[] }) {
  return (
    <Section title="Used by">
      {uses.length ? (
        <List>
          {uses.map(({ on, key, says }) => (
            <li key={`${on} ${key} ${says}`}>
              <Button
                weight="word"
                onPress={() => document.getElementById(fieldId(on, key))?.focus()}
              >
                {says}
              </Button>
            </li>
          ))}
        </List>
      ) : (
        <p>Nothing here refers to it.</p>
      )}
    </Section>
  );
}

/** Something to delete: which keys go with it, and the draft without it. */
export interface Deleting {
  what: string;
  keys: ReadonlySet<string>;
  from: (doc: Doc) => Doc;
}

interface DeleteSheetProps {
  doc: Doc;
  deleting: Deleting;
  onDelete: (change: (doc: Doc) => Doc) => void;
  onClose: () => void;
}

export function DeleteSheet({ doc, deleting, onDelete, onClose }: DeleteSheetProps) {
  const uses = usedBy(doc, deleting.keys);
  return (
    <Sheet title={`Delete ${deleting.what}?`} open onClose={onClose}>
      <p>{count(uses.length, "thing")} here refers to it:</p>
      <List>
        {uses.map(({ on, key, says }) => (
          <li key={`${on} ${key} ${says}`}>{says}</li>
        ))}
      </List>
      <Actions>
        <Button onPress={onClose}>Leave it</Button>
        <Button onPress={() => onDelete(deleting.from)}>Delete only this</Button>
        <Button
          weight="main"
          onPress={() => onDelete((now) => deleting.from(withoutUses(now, deleting.keys)))}
        >
          Delete it and what refers to it
        </Button>
      </Actions>
    </Sheet>
  );
}
