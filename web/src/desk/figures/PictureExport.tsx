/** The picture of one question, and the numbers behind it, as files. */
import { useQuery } from "@tanstack/react-query";
import { MenuTrigger } from "react-aria-components/Menu";

import { Button } from "../../ui/Button";
import { Deed, Deeds } from "../../ui/Deeds";
import { entryColumns } from "../entries/data";
import { pictureAddress, type Counted, type PictureFormat, type QuestionFigure } from "./data";
import { languagesOf } from "./languages";

interface PictureExportProps {
  id: string;
  one: QuestionFigure;
  counted: Counted;
}

const DRAWN: { format: PictureFormat; label: string }[] = [
  { format: "svg", label: "Drawing, SVG" },
  { format: "png", label: "Drawing, PNG" },
];

export function PictureExport({ id, one, counted }: PictureExportProps) {
  const languages = languagesOf(useQuery(entryColumns(id)).data?.columns);
  const [first] = languages;
  if (!first) return null;
  const to = (format: PictureFormat, language: string) =>
    pictureAddress(id, counted, one.key, format, language);
  return (
    <MenuTrigger>
      <Button weight="word" aria-label={`Export the figure ${one.label}`}>
        Export
      </Button>
      <Deeds aria-label="Export this figure">
        {languages.flatMap(({ code, label }) =>
          DRAWN.map((drawn) => (
            <Deed key={`${drawn.format} ${code}`} href={to(drawn.format, code)} download="">
              {languages.length > 1 ? `${drawn.label}, ${label}` : drawn.label}
            </Deed>
          )),
        )}
        <Deed href={to("csv", first.code)} download="">
          Numbers, CSV
        </Deed>
      </Deeds>
    </MenuTrigger>
  );
}
