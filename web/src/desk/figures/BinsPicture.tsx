/** Numbers, days or times in bins: columns side by side, with the table behind them. */
import { useId, useState, type CSSProperties } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import type { Bins } from "./data";
import { SpreadWords } from "./SpreadWords";
import { useNamed } from "./Two";
import { many } from "./words";

const Columns = styled.div`
  display: flex;
  align-items: stretch;
  height: 96px;
  gap: 2px;
  border-bottom: 1px solid var(--edge);
  padding-block-start: 16px;
  > span {
    position: relative;
    flex: 1 1 0;
    min-width: 2px;
    max-width: 64px;
    display: flex;
    align-items: flex-end;
  }
  i {
    display: block;
    width: 100%;
    background: var(--accent-mid);
    forced-color-adjust: none;
  }
  b {
    position: absolute;
    inset-inline: 0;
    text-align: center;
    font-weight: 400;
    font-size: 12px;
    line-height: 16px;
  }
`;

const Labels = styled.div`
  display: flex;
  gap: 2px;
  font-size: 12.5px;
  color: var(--ink-2);
  > span {
    flex: 1 1 0;
    min-width: 2px;
    max-width: 64px;
    text-align: center;
  }
  &[data-ends] {
    justify-content: space-between;
    > span {
      flex: none;
      max-width: 50%;
    }
  }
`;

/** Characters that all labels beside each other have room for. */
const ROOM = 74;

function Axis({ bins, width }: { bins: Bins["bins"]; width: CSSProperties }) {
  const first = bins[0];
  const last = bins.at(-1);
  if (!first || !last) return null;
  const longest = Math.max(...bins.map(({ label }) => label.length + 1));
  if (bins.length === 1 || longest * bins.length <= ROOM) {
    return (
      <Labels aria-hidden style={width}>
        {bins.map(({ label }) => (
          <span key={label}>{label}</span>
        ))}
      </Labels>
    );
  }
  return (
    <Labels aria-hidden data-ends style={width}>
      <span>{first.label}</span>
      <span>{last.label}</span>
    </Labels>
  );
}

interface BinsPictureProps {
  picture: Bins;
  name: string;
}

export function BinsPicture({ picture: { bins, spread }, name: called }: BinsPictureProps) {
  const name = useNamed(called);
  const [isTable, setTable] = useState(false);
  const id = useId();
  const most = Math.max(...bins.map(({ count }) => count), 1);
  const fullest = bins.find(({ count }) => count === most);
  const deed = isTable ? "Without the table" : "As a table";
  const width = { maxWidth: Math.min(560, bins.length * 66) };
  const words = `${name}: ${bins.length} columns, most in ${fullest?.label ?? ""}, ${most}`;
  return (
    <>
      <Columns role="img" aria-label={words} style={width}>
        {bins.map(({ label, count }) => (
          <span key={label} title={`${label}: ${many(count)}`}>
            <i style={{ height: `${(100 * count) / most}%` }} />
            {count && bins.length <= 16 ? (
              <b style={{ bottom: `${(100 * count) / most}%` }}>{many(count)}</b>
            ) : null}
          </span>
        ))}
      </Columns>
      <Axis bins={bins} width={width} />
      {spread ? <SpreadWords of={spread} /> : null}
      <Button
        weight="word"
        aria-expanded={isTable}
        aria-controls={id}
        aria-label={`${deed}: ${name}`}
        onPress={() => setTable(!isTable)}
      >
        {deed}
      </Button>
      <div id={id}>
        {isTable ? (
          <Ledger name={`${name} as a table`}>
            <thead>
              <tr>
                <th scope="col">Answer</th>
                <th scope="col" data-number>
                  Number
                </th>
              </tr>
            </thead>
            <tbody>
              {bins.map(({ label, count }) => (
                <tr key={label}>
                  <td>{label}</td>
                  <td data-number>{many(count)}</td>
                </tr>
              ))}
            </tbody>
          </Ledger>
        ) : null}
      </div>
    </>
  );
}
