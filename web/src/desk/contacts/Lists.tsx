/** The lists at the side, and what can be done with a list. */
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { addList, LISTS, putList, removeList, type ContactList } from "./data";

const Column = styled.nav`
  h2 {
    font-size: 16px;
    margin-bottom: 6px;
  }
  li a {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 2px 8px;
    padding: 6px 8px;
    border-inline-start: 3px solid transparent;
    color: var(--ink);
    text-decoration: none;
    overflow-wrap: anywhere;
  }
  li a:hover {
    background: var(--mist);
  }
  li a[aria-current] {
    border-color: var(--accent);
    background: var(--mist);
    font-weight: 700;
  }
  small {
    grid-column: 1 / -1;
    color: var(--ink-2);
    font-weight: 400;
  }
  span {
    color: var(--ink-2);
  }
`;

interface NameSheetProps {
  title: string;
  start: string;
  onSave: (name: string) => Promise<unknown>;
  onClose: () => void;
}

function NameSheet({ title, start, onSave, onClose }: NameSheetProps) {
  const [name, setName] = useState(start);
  const saving = useDoing(() => onSave(name), [LISTS], onClose);
  const other = otherFault(saving.error, ["name"]);
  return (
    <Sheet title={title} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        <Field
          label="Name"
          value={name}
          maxLength={120}
          autoFocus
          error={faultAt(saving.error, "name")}
          onChange={setName}
        />
        {other ? <Strip tone="wrong">{other}</Strip> : null}
        <Actions style={{ marginTop: 14 }}>
          <Button onPress={onClose}>Cancel</Button>
          <Button weight="main" type="submit">
            Save
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}

/** The name of the chosen list, with what can be done to it. */
export function ListHead({ list }: { list: ContactList }) {
  const [sheet, setSheet] = useState<"name" | "remove" | "">("");
  const go = useNavigate();
  const removing = useDoing(
    () => removeList(list.id),
    [LISTS],
    () => void go({ to: "/contacts" }),
  );
  const close = () => setSheet("");
  return (
    <>
      <Button weight="word" onPress={() => setSheet("name")}>
        Rename the list
      </Button>
      <Button weight="word" onPress={() => setSheet("remove")}>
        Delete the list
      </Button>
      {sheet === "name" ? (
        <NameSheet
          title="Rename the list"
          start={list.name}
          onSave={(name) => putList(list.id, name)}
          onClose={close}
        />
      ) : null}
      {sheet === "remove" ? (
        <Sheet title={`Delete the list ${list.name}?`} open onClose={close}>
          <p>The contacts on it stay. Passes that were made for them stay too.</p>
          {removing.error ? <Strip tone="wrong">{removing.error.message}</Strip> : null}
          <Actions>
            <Button onPress={close}>Cancel</Button>
            <Button weight="main" onPress={() => removing.mutate()}>
              Delete the list
            </Button>
          </Actions>
        </Sheet>
      ) : null}
    </>
  );
}

const aboutList = ({ contacts, reachable }: ContactList) =>
  contacts === reachable ? "" : `${contacts - reachable} opted out`;

const EXACT = { exact: true, includeSearch: true, explicitUndefined: true };

export function Lists({ lists }: { lists: readonly ContactList[] }) {
  const [making, setMaking] = useState(false);
  return (
    <Column aria-labelledby="contact-lists">
      <h2 id="contact-lists">Lists</h2>
      <ul>
        <li>
          <Link to="/contacts" search={{}} activeOptions={EXACT}>
            All contacts
          </Link>
        </li>
        {lists.map((list) => (
          <li key={list.id}>
            <Link to="/contacts" search={{ list: list.id }} activeOptions={EXACT}>
              {list.name}
              <span>{list.contacts}</span>
              {aboutList(list) ? <small>{aboutList(list)}</small> : null}
            </Link>
          </li>
        ))}
      </ul>
      <Button weight="word" onPress={() => setMaking(true)}>
        New list
      </Button>
      {making ? (
        <NameSheet title="New list" start="" onSave={addList} onClose={() => setMaking(false)} />
      ) : null}
    </Column>
  );
}
