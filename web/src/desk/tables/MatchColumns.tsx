/** The first rows of a table that was brought, and above each column what it holds. */
import type { Schema } from "../../client/client";
import { Choose } from "../../ui/Choose";
import { Ledger } from "../../ui/Ledger";

export type Table = Schema<"TableOut">;
/** By the number of a column what it holds; empty where that is nothing. */
export type Matched = Readonly<Record<string, string>>;

const NOTHING = "";

/** What is left of a matching once columns that hold nothing are left out. */
export const heldColumns = (matched: Matched) =>
  Object.fromEntries(Object.entries(matched).filter(([, one]) => one));

interface MatchProps {
  table: Table;
  /** What a column can hold. */
  choices: readonly { code: string; label: string }[];
  /** What is said of a column and its choice: it brings, or it holds. */
  verb: string;
  matched: Matched;
  onMatch: (matched: Matched) => void;
  errorAt: (at: string) => string | undefined;
}

export function MatchColumns({ table, choices, verb, matched, onMatch, errorAt }: MatchProps) {
  const options = [{ code: NOTHING, label: "Nothing" }, ...choices];
  return (
    <Ledger name={`What each column ${verb}`}>
      <thead>
        <tr>
          {table.columns.map((column, at) => (
            <th key={column} scope="col">
              <div>{column}</div>
              <Choose
                name={`${column} ${verb}`}
                options={options}
                value={matched[at] ?? NOTHING}
                onChange={(name) => onMatch({ ...matched, [at]: name })}
              />
              {errorAt(`columns/${at}`) ? <div role="alert">{errorAt(`columns/${at}`)}</div> : null}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.sample.map((row, at) => (
          <tr key={at}>
            {row.map((cell, column) => (
              <td key={column}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Ledger>
  );
}
