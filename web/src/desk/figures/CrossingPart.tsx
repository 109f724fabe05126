/** One question by another, as a table of shading, with what of it is more than chance. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import { Loaded } from "../shell/states";
import { crossingQuery, type Counted, type Crossing, type Pair } from "./data";
import { Shading, shade } from "./Shading";
import { many, number, percent } from "./words";

const Part = styled.section`
  padding-block-end: 18px;
  border-bottom: 1px solid var(--line-2);
  p {
    margin-block-start: 8px;
    font-size: 13.5px;
    color: var(--ink-2);
  }
`;

type Row = Crossing["rows"][number];
type Cell = Row["cells"][number];

/** From here on a residual is unlikely to be chance, at the level of 5 %. */
const UNLIKELY = 1.96;

const OF = { rows: "of each row", columns: "of each column", all: "of all" } as const;

function share({ count }: Cell, row: Row, column: number, total: number, { of }: Pair): number {
  const base = of === "rows" ? row.total : of === "columns" ? column : total;
  return base ? count / base : 0;
}

/** A cell that differs from what chance would give says in which direction. */
function Mark({ residual }: Pick<Cell, "residual">) {
  if (typeof residual !== "number" || Math.abs(residual) <= UNLIKELY) return null;
  const [glyph, words] = residual > 0 ? ["▲", "more than by chance"] : ["▼", "less than by chance"];
  return (
    <span role="img" aria-label={words}>
      {" "}
      {glyph}
    </span>
  );
}

const BY = {
  chi_square: "Pearson’s chi-square",
  fisher: "Fisher’s exact test",
  fisher_random: "Fisher’s test by 9,999 random tables",
} as const;

function Told({ test }: { test: NonNullable<Crossing["test"]> }) {
  const p = test.p < 0.001 ? "p < 0.001" : `p = ${test.p.toFixed(3)}`;
  return (
    <p>
      {BY[test.by]}: {p}; χ² = {number(test.statistic)}, {test.freedom}{" "}
      {test.freedom === 1 ? "degree" : "degrees"} of freedom, Cramér’s V = {test.v.toFixed(2)}. ▲▼
      differ from what chance would give.
    </p>
  );
}

function Table({ found, pair, name }: { found: Crossing; pair: Pair; name: string }) {
  return (
    <Shading tabIndex={0} role="region" aria-label={`${name}, shares ${OF[pair.of]}`}>
      <table aria-label={name}>
        <thead>
          <tr>
            <td />
            {found.columns.map((label) => (
              <th key={label} scope="col">
                {label}
              </th>
            ))}
            <th scope="col">answered</th>
          </tr>
        </thead>
        <tbody>
          {found.rows.map((row) => (
            <tr key={row.label}>
              <th scope="row">{row.label}</th>
              {row.cells.map((cell, at) => {
                const part = share(cell, row, found.totals[at] ?? 0, found.total, pair);
                return (
                  <td key={at} title={many(cell.count)} style={{ background: shade(part) }}>
                    {cell.count ? percent(part) : "0"}
                    <Mark residual={cell.residual ?? null} />
                  </td>
                );
              })}
              <td>{many(row.total)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">answered</th>
            {found.totals.map((total, at) => (
              <td key={at}>{many(total)}</td>
            ))}
            <td>{many(found.total)}</td>
          </tr>
        </tfoot>
      </table>
    </Shading>
  );
}

interface CrossingPartProps {
  id: string;
  counted: Counted;
  pair: Pair;
  name: string;
}

export function CrossingPart({ id, counted, pair, name }: CrossingPartProps) {
  const query = useQuery(crossingQuery(id, counted, pair));
  return (
    <Part>
      <h2>{name}</h2>
      <Loaded query={query}>
        {(found) =>
          found.total ? (
            <>
              <Table found={found} pair={pair} name={name} />
              {found.test ? (
                <Told test={found.test} />
              ) : (
                <p>
                  There is no test where somebody can be in several rows or columns, or where there
                  is only one.
                </p>
              )}
            </>
          ) : (
            <Quiet>Nobody has answered both.</Quiet>
          )
        }
      </Loaded>
    </Part>
  );
}
