/** The entries that are counted, as data for statistics programs, and what their columns mean. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Picker } from "../../ui/Picker";
import { Quiet } from "../../ui/text";
import { entryColumns } from "../entries/data";
import {
  codebookAddress,
  dataAddress,
  type CodebookFormat,
  type Counted,
  type DataFormat,
} from "./data";
import { languagesOf } from "./languages";
import { Said } from "./Said";

const FORMATS: { code: DataFormat; label: string }[] = [
  { code: "csv", label: "CSV" },
  { code: "parquet", label: "Parquet" },
  { code: "sav", label: ".sav" },
  { code: "dta", label: ".dta" },
];

const BOOKS: { code: CodebookFormat; label: string }[] = [
  { code: "html", label: "as a page" },
  { code: "pdf", label: "as PDF" },
  { code: "ddi", label: "by DDI" },
  { code: "csvw", label: "by CSV on the Web" },
  { code: "datapackage", label: "as a data package" },
];

const Links = styled.ul`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 14px;
  a {
    display: inline-block;
    padding-block: 3px;
  }
`;

export function DataPart({ id, counted }: { id: string; counted: Counted }) {
  const [format, setFormat] = useState<DataFormat>("csv");
  const [chosen, setLanguage] = useState("");
  const languages = languagesOf(useQuery(entryColumns(id)).data?.columns);
  const language = chosen || languages[0]?.code || "";
  return (
    <>
      <h2>Data for statistics</h2>
      <Said>
        The same entries as{" "}
        <Picker
          inline
          label="The form of the data"
          options={FORMATS}
          value={format}
          onChange={(code) => setFormat(code as DataFormat)}
        />
        {languages.length > 1 ? (
          <>
            , labels in{" "}
            <Picker
              inline
              label="The language of labels"
              options={languages}
              value={language}
              onChange={setLanguage}
            />
          </>
        ) : null}
        .
      </Said>
      <a href={dataAddress(id, counted, format, language)} download="">
        Download data with its codebook
      </a>
      <Links aria-label="The codebook alone">
        <li>
          <Quiet>Only the codebook:</Quiet>
        </li>
        {BOOKS.map(({ code, label }) => (
          <li key={code}>
            <a href={codebookAddress(id, counted, code, language)} download="">
              {label}
            </a>
          </li>
        ))}
      </Links>
    </>
  );
}
