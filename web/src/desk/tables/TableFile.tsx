/** Choosing a table to bring: a CSV file or a workbook. */
import styled from "styled-components";

import { Strip } from "../../ui/Strip";
import { otherFault } from "../useDoing";

const Chosen = styled.label`
  display: block;
  font-weight: 600;
  input {
    display: block;
    margin-top: 4px;
    font-weight: 400;
    max-width: 100%;
  }
`;

interface TableFileProps {
  isReading: boolean;
  error: Error | null;
  onFile: (file: File) => void;
}

export function TableFile({ isReading, error, onFile }: TableFileProps) {
  const failed = otherFault(error, []);
  return (
    <>
      <Chosen>
        CSV or XLSX, up to 30 MB
        <input
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,text/csv"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) onFile(file);
          }}
        />
      </Chosen>
      <span role="status">{isReading ? "Reading the file" : ""}</span>
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
    </>
  );
}
