/** The entries that are looked at, as files. */
import { MenuTrigger } from "react-aria-components/Menu";

import { Button } from "../../ui/Button";
import { Deed, Deeds } from "../../ui/Deeds";
import { exportAddress, type Looked } from "./data";

interface ExportProps {
  id: string;
  looked: Looked;
  /** How many there are, in words. */
  many: string;
}

export function Export({ id, looked, many }: ExportProps) {
  const to = (format: "csv" | "xlsx" | "jsonl", codes = false) =>
    exportAddress(id, looked, format, codes);
  return (
    <MenuTrigger>
      <Button>Export {many}</Button>
      <Deeds aria-label="Export">
        <Deed href={to("csv")} download="">
          CSV
        </Deed>
        <Deed href={to("csv", true)} download="">
          CSV with keys and codes
        </Deed>
        <Deed href={to("xlsx")} download="">
          XLSX
        </Deed>
        <Deed href={to("jsonl")} download="">
          JSON Lines
        </Deed>
        <Deed href={`/api/questionnaires/${id}/editions/newest/entry-schema`} download="entry.json">
          JSON Schema of an entry
        </Deed>
      </Deeds>
    </MenuTrigger>
  );
}
