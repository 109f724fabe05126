/** Contacts as a ledger whose cells are changed where they stand. */
import styled from "styled-components";

import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { onDay } from "../when";
import { Cell } from "./Cell";
import type { Contact, ContactField } from "./data";
import { useSaves } from "./useSaves";

interface RowProps {
  contact: Contact;
  fields: readonly ContactField[];
  isSelected: boolean;
  isOpen: boolean;
  onSelect: (on: boolean) => void;
  onOpen: () => void;
}

function Row({ contact: given, fields, isSelected, isOpen, onSelect, onOpen }: RowProps) {
  const { contact, errors, save } = useSaves(given);
  return (
    <tr data-selected={isOpen || undefined}>
      <td>
        <input
          type="checkbox"
          aria-label={`Choose ${contact.called}`}
          checked={isSelected}
          onChange={(event) => onSelect(event.target.checked)}
        />
      </td>
      <td>
        <Button weight="word" aria-label={`Open ${contact.called}`} onPress={onOpen}>
          Open
        </Button>
      </td>
      {fields.map((field) => (
        <td key={field.key}>
          <Cell
            field={field}
            name={`${field.label} of ${contact.called}`}
            value={contact.values[field.key] ?? ""}
            error={errors[field.key]}
            onSave={(value) => save(field.key, value)}
          />
        </td>
      ))}
      <td>
        {contact.opted_out ? <Tag $as="shut">Opted out {onDay(contact.opted_out)}</Tag> : null}
      </td>
    </tr>
  );
}

const Grid = styled.div`
  min-width: 0;
  td {
    vertical-align: middle;
    padding-block: 3px;
    max-width: none;
  }
  td:first-child input {
    display: block;
    width: 18px;
    height: 18px;
  }
`;

interface LedgerProps {
  contacts: readonly Contact[];
  fields: readonly ContactField[];
  chosen: ReadonlySet<string>;
  open: string;
  onChosen: (chosen: ReadonlySet<string>) => void;
  onOpen: (id: string) => void;
}

export function ContactsLedger({ contacts, fields, chosen, open, onChosen, onOpen }: LedgerProps) {
  const isWhole = contacts.length > 0 && contacts.every(({ id }) => chosen.has(id));
  const select = (id: string, on: boolean) => {
    const next = new Set(chosen);
    if (on) next.add(id);
    else next.delete(id);
    onChosen(next);
  };
  return (
    <Grid>
      <Ledger name="Contacts">
        <thead>
          <tr>
            <th scope="col">
              <input
                type="checkbox"
                aria-label="Choose all that are shown"
                checked={isWhole}
                onChange={(event) =>
                  onChosen(new Set(event.target.checked ? contacts.map(({ id }) => id) : []))
                }
              />
            </th>
            <th scope="col">More</th>
            {fields.map((field) => (
              <th key={field.key} scope="col">
                {field.label}
              </th>
            ))}
            <th scope="col">Letters</th>
          </tr>
        </thead>
        <tbody>
          {contacts.map((contact) => (
            <Row
              key={contact.id}
              contact={contact}
              fields={fields}
              isSelected={chosen.has(contact.id)}
              isOpen={contact.id === open}
              onSelect={(on) => select(contact.id, on)}
              onOpen={() => onOpen(contact.id)}
            />
          ))}
        </tbody>
      </Ledger>
    </Grid>
  );
}
