/** Blocks of cells as spreadsheets put them on the clipboard: tabs between cells, a line each. */
import Papa from "papaparse";

/** The cells of a block, by line; a cell with tabs or lines in it stands in quotes. */
export function blockOf(text: string): string[][] {
  const lines = Papa.parse<string[]>(text.replace(/(\r\n|\r|\n)$/, ""), {
    delimiter: "\t",
  }).data;
  const width = Math.max(0, ...lines.map((line) => line.length));
  return lines.map((line) => Array.from({ length: width }, (_, at) => line[at] ?? ""));
}

export function asText(block: readonly (readonly string[])[]): string {
  return Papa.unparse(
    block.map((line) => [...line]),
    { delimiter: "\t", newline: "\r\n" },
  );
}
