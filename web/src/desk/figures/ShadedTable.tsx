/** A table whose cells are the darker the larger their share is. */
import type { ReactNode } from "react";
import styled from "styled-components";

import { useNamed } from "./Two";
import { many, percent } from "./words";

const Shading = styled.div`
  overflow-x: auto;
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th {
    font-weight: 400;
    text-align: end;
    padding: 4px 8px;
    vertical-align: bottom;
  }
  tbody th {
    text-align: start;
    padding-inline-start: 0;
  }
  td {
    text-align: end;
    padding: 4px 8px;
    white-space: nowrap;
  }
`;

/** Dark enough to be told apart, light enough for ink on it. */
const shade = (share: number) =>
  `color-mix(in srgb, var(--accent-mid) ${Math.round(55 * share)}%, var(--mist))`;

interface Shaded {
  count: number;
  share: number;
  /** What stands behind the share. */
  mark?: ReactNode;
}

interface ShadedTableProps {
  name: string;
  /** What shares are of, where that is not plain. */
  of?: string;
  columns: readonly string[];
  rows: readonly { label: string; total: number; cells: readonly Shaded[] }[];
  /** How many are in each column, and in all. */
  totals?: readonly number[];
}

export function ShadedTable({ name: called, of = "", columns, rows, totals }: ShadedTableProps) {
  const name = useNamed(called);
  return (
    <Shading tabIndex={0} role="region" aria-label={name + of}>
      <table aria-label={name}>
        <thead>
          <tr>
            <td />
            {columns.map((label) => (
              <th key={label} scope="col">
                {label}
              </th>
            ))}
            <th scope="col">answered</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ label, total, cells }) => (
            <tr key={label}>
              <th scope="row">{label}</th>
              {cells.map(({ count, share, mark }, at) => (
                <td key={at} title={many(count)} style={{ background: shade(share) }}>
                  {count ? percent(share) : "0"}
                  {mark}
                </td>
              ))}
              <td>{many(total)}</td>
            </tr>
          ))}
        </tbody>
        {totals ? (
          <tfoot>
            <tr>
              <th scope="row">answered</th>
              {totals.map((total, at) => (
                <td key={at}>{many(total)}</td>
              ))}
            </tr>
          </tfoot>
        ) : null}
      </table>
    </Shading>
  );
}
