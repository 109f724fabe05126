/** The rows of a grid: their words and codes, whether they are required, how often they repeat. */
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { first, say, told, type Doc, type Grid } from "../document";
import { CodedList, Mark } from "./CodedList";
import { NewLines } from "./NewLines";
import { pasted } from "./pasted";

type Row = Schema<"Row">;

const List = styled(CodedList)`
  @media (max-width: 620px) {
    li {
      grid-template-columns: minmax(0, 1fr) auto;
    }
  }
`;

interface GridRowsProps {
  grid: Grid;
  doc: Doc;
  onRows: (rows: Row[], step?: string) => void;
}

export function GridRows({ grid, doc, onRows }: GridRowsProps) {
  const rows = grid.rows ?? [];
  const change = (at: number, part: Partial<Row>) =>
    onRows(
      rows.map((row, other) => (other === at ? { ...row, ...part } : row)),
      `row ${grid.key} ${at}`,
    );
  const add = (text: string) => {
    const { parts, remark } = pasted(rows, text, first(doc), "row");
    onRows(parts);
    return remark;
  };
  return (
    <>
      <List $columns="minmax(0, 1fr) 96px 62px auto auto" aria-label="Rows">
        {rows.map((row, at) => (
          <li key={at}>
            <input
              aria-label={`Row ${at + 1}`}
              value={say(doc, row.label)}
              onChange={(event) => change(at, { label: told(doc, row.label, event.target.value) })}
            />
            <input
              aria-label={`Code of row ${at + 1}`}
              value={row.code}
              onChange={(event) => change(at, { code: event.target.value })}
            />
            <input
              type="number"
              min={1}
              max={20}
              aria-label={`How often row ${at + 1} can be answered`}
              title="times"
              value={row.repeats ?? 1}
              onChange={(event) => {
                const repeats = Number(event.target.value);
                if (repeats >= 1 && repeats <= 20) change(at, { repeats });
              }}
            />
            <Mark
              aria-label={`Row ${at + 1} is required`}
              aria-pressed={row.required ?? false}
              onClick={() => change(at, { required: !row.required })}
            >
              required
            </Mark>
            <Button
              weight="word"
              aria-label={`Remove row ${at + 1}`}
              onPress={() => onRows(rows.filter((_, other) => other !== at))}
            >
              Remove
            </Button>
          </li>
        ))}
      </List>
      <NewLines noun="row" onAdd={add} />
    </>
  );
}
