/** Which entries are counted and who shares are of, as words in a sentence that can be changed. */
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { sentence } from "../condition/words";
import type { Subject } from "../subjects";
import type { TableView } from "../views/view";
import type { Base, Counted } from "./data";

/** As what else can be changed in the sentence. */
export const Filtered = styled(Button)`
  background: var(--accent-soft);
  border-color: transparent;
  font-size: inherit;
  padding: 2px 8px;
  max-width: 100%;
  text-align: start;
  display: inline;
`;

const BASES: { code: Base; label: string }[] = [
  { code: "answered", label: "all who answered" },
  { code: "asked", label: "all who were asked" },
];

/** Which entries are meant. */
export const which = ({ filter }: TableView, subjects: readonly Subject[]) =>
  filter ? `of which ${sentence(filter, subjects)}` : "of every kind";

interface CountedWordsProps {
  counted: Pick<Counted, "view" | "archived" | "of">;
  subjects: readonly Subject[];
  isFiltering: boolean;
  onFiltering: () => void;
  onCounted: (next: { archived: boolean } | { of: Base }) => void;
}

export function CountedWords(props: CountedWordsProps) {
  const { counted, subjects, isFiltering, onFiltering, onCounted } = props;
  return (
    <>
      Entries{" "}
      <Filtered aria-expanded={isFiltering} onPress={onFiltering}>
        {which(counted.view, subjects)}
      </Filtered>
      ,{" "}
      <Picker
        inline
        label="The archive"
        options={[
          { code: "without", label: "without the archive" },
          { code: "with", label: "with the archive" },
        ]}
        value={counted.archived ? "with" : "without"}
        onChange={(code) => onCounted({ archived: code === "with" })}
      />
      , and shares of{" "}
      <Picker
        inline
        label="Shares of"
        options={BASES}
        value={counted.of}
        onChange={(code) => onCounted({ of: code as Base })}
      />
    </>
  );
}
