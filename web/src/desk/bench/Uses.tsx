/** What refers to an item, and the question what becomes of that when it is deleted. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { dispatch } from "../data";
import { count, type Doc } from "../document";
import { fieldId, goTo, INTRODUCTION } from "../draft/fields";
import { rulesUsing, usedBy, withoutUses, type Use } from "../draft/references";
import { Section } from "../shell/Section";

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

/** The dispatch rules that speak of one of `keys`. */
export function useRulesUsing(id: string, keys: ReadonlySet<string>): readonly string[] {
  const rules = useQuery(dispatch(id)).data?.dispatch;
  return rules ? rulesUsing(rules, keys) : [];
}

interface UsedByProps {
  id: string;
  keys: ReadonlySet<string>;
  uses: readonly Use[];
}

export function UsedBy({ id, keys, uses }: UsedByProps) {
  const rules = useRulesUsing(id, keys);
  return (
    <Section title="Used by">
      {uses.length || rules.length ? (
        <List>
          {rules.map((says) => (
            <li key={says}>
              <Link to="/q/$id/dispatch" params={{ id }}>
                {says}
              </Link>
            </li>
          ))}
          {uses.map(({ on, key, says }) => (
            <li key={`${on} ${key} ${says}`}>
              <Button
                weight="word"
                onPress={() => goTo(on === "front" ? INTRODUCTION : fieldId(on, key))}
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
  id: string;
  doc: Doc;
  deleting: Deleting;
  onDelete: (change: (doc: Doc) => Doc) => void;
  onClose: () => void;
}

export function DeleteSheet({ id, doc, deleting, onDelete, onClose }: DeleteSheetProps) {
  const uses = usedBy(doc, deleting.keys);
  const rules = useRulesUsing(id, deleting.keys);
  return (
    <Sheet title={`Delete ${deleting.what}?`} open onClose={onClose}>
      <p>{count(uses.length + rules.length, "thing")} refers to it:</p>
      <List>
        {rules.map((says) => (
          <li key={says}>{says}. It stays as it is; Dispatch then says what is wrong.</li>
        ))}
        {uses.map(({ on, key, says }) => (
          <li key={`${on} ${key} ${says}`}>{says}</li>
        ))}
      </List>
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
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
