/** The entries that are looked at, as files. */
import { useQuery } from "@tanstack/react-query";
import { MenuTrigger } from "react-aria-components/Menu";

import { Button } from "../../ui/Button";
import { Deed, Deeds } from "../../ui/Deeds";
import { Quiet } from "../../ui/text";
import {
  entryColumns,
  exportAddress,
  MOST_NAMED,
  type Chosen,
  type FileFormat,
  type Looked,
} from "./data";

interface ExportProps {
  id: string;
  looked: Looked;
  /** How many there are, in words. */
  many: string;
  /** Those of them that are meant; all where it is left out. */
  chosen?: Chosen;
}

export function Export({ id, looked, many, chosen }: ExportProps) {
  const columns = useQuery(entryColumns(id)).data?.columns ?? [];
  const has = (...kinds: string[]) => columns.some(({ kind }) => kinds.includes(kind));
  const to = (format: FileFormat, how = {}) => exportAddress(id, looked, format, how, chosen);
  if (chosen && chosen.numbers.length > MOST_NAMED) {
    return <Quiet>{MOST_NAMED} can be exported by name. Choose fewer, or filter.</Quiet>;
  }
  return (
    <MenuTrigger>
      <Button>{many ? `Export ${many}` : "Export"}</Button>
      <Deeds aria-label="Export">
        <Deed href={to("csv")} download="">
          CSV
        </Deed>
        <Deed href={to("csv", { codes: true })} download="">
          CSV with keys and codes
        </Deed>
        <Deed href={to("xlsx")} download="">
          XLSX
        </Deed>
        {has("roster", "grid") ? (
          <Deed href={to("zip")} download="">
            ZIP: rosters and grids as tables
          </Deed>
        ) : null}
        {has("roster", "file", "signature") ? (
          <Deed href={to("zip", { files: true })} download="">
            ZIP with the files that came
          </Deed>
        ) : null}
        <Deed href={to("jsonl")} download="">
          JSON Lines
        </Deed>
        <Deed href={to("xml")} download="">
          XML
        </Deed>
        <Deed href="/api/entries.xsd" download="entries.xsd">
          XML Schema of entries
        </Deed>
        <Deed href={`/api/questionnaires/${id}/editions/newest/entry-schema`} download="entry.json">
          JSON Schema of an entry
        </Deed>
      </Deeds>
    </MenuTrigger>
  );
}
