/** One question by another, as a table of shading, with what of it is more than chance. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import { Loaded } from "../shell/states";
import { crossingQuery, type Counted, type Crossing, type Pair } from "./data";
import { Noted } from "./Noted";
import { ShadedTable } from "./ShadedTable";
import { number } from "./words";

const Part = styled.section`
  padding-block-end: 18px;
  border-bottom: 1px solid var(--line-2);
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
    <Noted>
      {BY[test.by]}: {p}; χ² = {number(test.statistic)}, {test.freedom}{" "}
      {test.freedom === 1 ? "degree" : "degrees"} of freedom, Cramér’s V = {test.v.toFixed(2)}. ▲▼
      differ from what chance would give.
    </Noted>
  );
}

function Table({ found, pair, name }: { found: Crossing; pair: Pair; name: string }) {
  const rows = found.rows.map((row) => ({
    ...row,
    cells: row.cells.map((cell, at) => ({
      count: cell.count,
      share: share(cell, row, found.totals[at] ?? 0, found.total, pair),
      mark: <Mark residual={cell.residual ?? null} />,
    })),
  }));
  return (
    <ShadedTable
      name={name}
      of={`, shares ${OF[pair.of]}`}
      columns={found.columns}
      rows={rows}
      totals={[...found.totals, found.total]}
    />
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
                <Noted>
                  There is no test where somebody can be in several rows or columns, or where there
                  is only one.
                </Noted>
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
