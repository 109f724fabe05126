/** One combination of values: how many places there are, and what is taken and held of them. */
import styled from "styled-components";

import { InSentence } from "../../ui/InSentence";
import { numberOr, type Places } from "./data";
import type { Cell } from "./values";

export const Rows = styled.table`
  border-collapse: collapse;
  width: 100%;
  th,
  td {
    text-align: start;
    font-weight: 400;
    padding: 3px 10px 3px 0;
    vertical-align: middle;
  }
  td:last-child {
    white-space: nowrap;
    width: 1%;
  }
`;

const Track = styled.div`
  position: relative;
  height: 9px;
  min-width: 60px;
  background: var(--mist);
  span {
    position: absolute;
    inset-block: 0;
  }
  @media (forced-colors: active) {
    border: 1px solid CanvasText;
    span {
      background: Highlight !important;
      forced-color-adjust: none;
    }
  }
`;

function Bar({ cell }: { cell: Cell }) {
  const most = cell.most ?? 0;
  const share = (number: number) => `${most ? Math.min((number / most) * 100, 100) : 0}%`;
  return (
    <Track aria-hidden="true">
      <span
        style={{
          insetInlineStart: 0,
          width: share(cell.taken),
          background: cell.taken >= most && most ? "var(--rust)" : "var(--accent-mid)",
        }}
      />
      <span
        style={{
          insetInlineStart: share(cell.taken),
          width: share(cell.held),
          background: "var(--ochre)",
        }}
      />
    </Track>
  );
}

interface CellRowProps {
  cell: Cell;
  places: Places;
  writes: boolean;
  onMost: (most: number | null) => void;
}

export function CellRow({ cell, places, writes, onMost }: CellRowProps) {
  const name = cell.labels.length ? cell.labels.join(", ") : "All";
  const own = cell.labels.length > 0;
  return (
    <tr>
      <th scope="row">{name}</th>
      <td>
        <Bar cell={cell} />
      </td>
      <td>
        {cell.taken}
        {cell.held ? ` + ${cell.held} held` : ""} of{" "}
        <InSentence
          name={`Places, ${places.name}, ${name}`}
          type="number"
          min={0}
          value={cell.most === null ? "" : String(cell.most)}
          isDisabled={!writes}
          placeholder="any"
          onChange={(text) => onMost(text === "" && own ? null : numberOr(text, cell.most))}
        />
        {cell.waiting ? ` ${cell.waiting} waiting` : ""}
      </td>
    </tr>
  );
}
