/** Questions inside of a roster or grid: rows of a grid that offer the same stand as one table of
 * shading, all else one under the other. */
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import type { Bars, Gathered } from "./data";
import { ShadedTable } from "./ShadedTable";
import { SinglePicture } from "./SinglePicture";
import { many } from "./words";

type Inner = Gathered["inner"][number];

const Part = styled.section`
  padding-block-start: 12px;
  padding-inline-start: 14px;
  border-inline-start: 2px solid var(--line);
  margin-block-start: 10px;
  > h4 {
    margin: 0 0 4px;
    font-size: 14px;
    display: flex;
    justify-content: space-between;
    gap: 10px;
  }
`;

function byKey(inner: readonly Inner[]): [string, Inner[]][] {
  const found = new Map<string, Inner[]>();
  for (const one of inner) found.set(one.key, [...(found.get(one.key) ?? []), one]);
  return [...found];
}

const isShaded = (rows: readonly Inner[]): rows is (Inner & { picture: Bars })[] =>
  rows.every(({ row, picture }) => row && picture.kind === "bars") && rows.length > 1;

function Shaded({ rows, name }: { rows: readonly (Inner & { picture: Bars })[]; name: string }) {
  const columns = [...new Set(rows.flatMap(({ picture }) => picture.bars.map((one) => one.label)))];
  const shaded = rows.map(({ row, answered, picture }) => ({
    label: row ?? "",
    total: answered,
    cells: columns.map(
      (label) => picture.bars.find((one) => one.label === label) ?? { count: 0, share: 0 },
    ),
  }));
  return <ShadedTable name={name} columns={columns} rows={shaded} />;
}

export function InnerPictures({ inner }: { inner: readonly Inner[] }) {
  return byKey(inner).map(([key, rows]) => {
    const label = rows[0]?.label ?? key;
    if (isShaded(rows)) {
      return (
        <Part key={key}>
          <h4>{label}</h4>
          <Shaded rows={rows} name={label} />
        </Part>
      );
    }
    return rows.map(({ row, answered, picture }) => {
      const name = row ? `${row}: ${label}` : label;
      return (
        <Part key={`${key} ${row}`}>
          <h4>
            {name} <Quiet>{many(answered)} answered</Quiet>
          </h4>
          <SinglePicture picture={picture} name={name} />
        </Part>
      );
    });
  });
}
