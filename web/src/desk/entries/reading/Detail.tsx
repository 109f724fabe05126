/** An answer in full: a table for a grid or roster, files with previews, a drawn signature. */
import styled from "styled-components";

import type { Schema } from "../../../client/client";
import { Quiet } from "../../../ui/text";
import { bytesInWords } from "../../document";

type DetailOut = Schema<"DetailOut">;
type Seen = Schema<"EntryFileOut">;

const Scroll = styled.div`
  overflow-x: auto;
  margin-top: 4px;
`;

const Table = styled.table`
  border-collapse: collapse;
  font-size: 14px;
  th,
  td {
    border: 1px solid var(--line);
    padding: 4px 8px;
    text-align: start;
    vertical-align: top;
    min-width: 70px;
  }
  thead th {
    background: var(--mist);
    font-weight: 600;
    font-size: 13px;
  }
`;

const Lines = styled.ul`
  display: grid;
  gap: 8px;
  margin-top: 4px;
  li {
    border-inline-start: 3px solid var(--accent-mid);
    padding-inline-start: 10px;
    font-size: 14.5px;
  }
`;

/** More columns than these do not stand side by side in the pane. */
const WIDEST = 3;

const Sent = styled.ul`
  display: grid;
  gap: 6px;
  margin-top: 4px;
  li {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  img {
    width: 84px;
    height: 64px;
    object-fit: cover;
    border: 1px solid var(--line);
    border-radius: 3px;
    background: var(--mist);
  }
`;

const Drawn = styled.svg`
  display: block;
  width: 240px;
  max-width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 3;
  }
`;

function FileLine({ file, base, reason }: { file: Seen; base: string; reason: string }) {
  const why = reason ? `&reason=${encodeURIComponent(reason)}` : "";
  const path = `${base}/files/${file.id}`;
  return (
    <li>
      {file.preview ? (
        <a href={`${path}?small=false${why}`} download aria-label={`Save ${file.name}`}>
          <img src={`${path}?small=true${why}`} alt={file.name} />
        </a>
      ) : null}
      <span>
        <a href={`${path}?small=false${why}`} download>
          {file.name}
        </a>{" "}
        <Quiet>{bytesInWords(file.size)}</Quiet>
      </span>
    </li>
  );
}

export function Detail({
  detail,
  base,
  reason,
  words,
}: {
  detail: DetailOut;
  base: string;
  /** Why restricted files are looked at, where that is asked. */
  reason: string;
  words: string;
}) {
  const { columns = [], lines = [], files = [], drawn = "" } = detail;
  return (
    <>
      {lines.length && columns.length > WIDEST ? (
        <Lines>
          {lines.map((line, number) => (
            <li key={number}>
              <b>{line.heading}</b>
              {line.cells.map((cell, at) =>
                cell && cell !== line.heading ? (
                  <p key={at}>
                    <Quiet>{columns[at]}</Quiet> {cell}
                  </p>
                ) : null,
              )}
            </li>
          ))}
        </Lines>
      ) : lines.length ? (
        <Scroll tabIndex={0} role="region" aria-label={words}>
          <Table>
            <thead>
              <tr>
                <td />
                {columns.map((column) => (
                  <th key={column} scope="col">
                    {column}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {lines.map((line, number) => (
                <tr key={number}>
                  <th scope="row">{line.heading}</th>
                  {line.cells.map((cell, at) => (
                    <td key={at}>{cell}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      ) : null}
      {files.length ? (
        <Sent>
          {files.map((file) => (
            <FileLine key={file.id} file={file} base={base} reason={reason} />
          ))}
        </Sent>
      ) : null}
      {drawn ? (
        <Drawn viewBox="0 0 600 200" role="img" aria-label="Drawn signature">
          <path d={drawn} />
        </Drawn>
      ) : null}
    </>
  );
}
