/** The rows of a grid: their words and codes, whether they are required, how often they repeat. */
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { first, say, told, type Doc, type Grid } from "../document";
import { CodedList, Mark } from "./CodedList";
import { NewLines } from "./NewLines";
import { controlId } from "../draft/fields";
import { pasted } from "../draft/pasted";

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
  const idOf = (row: Row, part: string) => controlId(grid.key, row.code, part);
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
              id={idOf(row, "words")}
              aria-label={`Row ${at + 1}`}
              value={say(doc, row.label)}
              onChange={(event) => change(at, { label: told(doc, row.label, event.target.value) })}
            />
            <input
              id={idOf(row, "code")}
              aria-label={`Code of row ${at + 1}`}
              value={row.code}
              onChange={(event) => change(at, { code: event.target.value })}
            />
            <input
              id={idOf(row, "repeats")}
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
              id={idOf(row, "required")}
              aria-label={`Row ${at + 1} is required`}
              aria-pressed={row.required ?? false}
              onClick={() => change(at, { required: !row.required })}
            >
              required
            </Mark>
            <Button
              id={idOf(row, "remove")}
              weight="word"
              aria-label={`Remove row ${at + 1}`}
              onPress={() => onRows(rows.filter((_, other) => other !== at))}
            >
              Remove
            </Button>
          </li>
        ))}
      </List>
      <NewLines id={controlId(grid.key, "new row")} noun="row" onAdd={add} />
    </>
  );
}
