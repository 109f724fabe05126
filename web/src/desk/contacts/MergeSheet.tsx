/** One contact of two: which value of each field stays. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { otherFault, useDoing } from "../useDoing";
import { CONTACTS, LISTS, mergeContacts, type Contact, type ContactField } from "./data";

const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  th {
    text-align: start;
    padding: 6px 10px 6px 0;
    font-weight: 600;
  }
  td {
    padding: 4px 10px 4px 0;
    border-top: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  label {
    display: flex;
    gap: 8px;
    align-items: baseline;
    min-height: 28px;
  }
`;

interface MergeProps {
  one: Contact;
  other: Contact;
  fields: readonly ContactField[];
  onClose: () => void;
  onDone: () => void;
}

export function MergeSheet({ one, other, fields, onClose, onDone }: MergeProps) {
  const [values, setValues] = useState<Record<string, string>>({ ...other.values, ...one.values });
  const merging = useDoing(
    () => mergeContacts(one.id, { other: other.id, values }),
    [CONTACTS, LISTS],
    onDone,
  );
  const failed = otherFault(merging.error, []);
  const held = fields.filter(({ key }) => one.values[key] || other.values[key]);
  return (
    <Sheet title="Make them one contact" open onClose={onClose} width="wide">
      <p>
        Lists, passes and entries of both go to the one that stays. If one of them opted out, it
        stays so.
      </p>
      <Table>
        <tbody>
          {held.map(({ key, label }) => {
            const choices = [...new Set([one.values[key], other.values[key]])].filter(
              (value): value is string => Boolean(value),
            );
            return (
              <tr key={key}>
                <th scope="row">{label}</th>
                {choices.map((value) => (
                  <td key={value} colSpan={choices.length === 1 ? 2 : 1}>
                    <label>
                      <input
                        type="radio"
                        name={`merge ${key}`}
                        checked={values[key] === value}
                        onChange={() => setValues({ ...values, [key]: value })}
                      />
                      {value}
                    </label>
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </Table>
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" onPress={() => merging.mutate()}>
          Make them one
        </Button>
      </Actions>
    </Sheet>
  );
}
