/** What is counted, as a sentence whose words can be changed. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useMemo, useState, type ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { subjectsOf } from "../entries/columns";
import { entryColumns } from "../entries/data";
import { useRight } from "../shell/rights";
import { FilterPart } from "../views/FilterPart";
import { CountedWords, Filtered, which } from "./CountedWords";
import { DataPart } from "./DataPart";
import { figuresAddress, type Counted, type Figures } from "./data";
import { Said } from "./Said";
import { many } from "./words";

const Side = styled.aside`
  background: var(--paper);
  border-inline-start: 1px solid var(--line);
  padding: 18px 20px 40px;
  min-width: 0;
  > div {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 14px;
    align-content: start;
    @media (min-width: 861px) and (min-height: 560px) {
      position: sticky;
      top: calc(18px + var(--way, 0px));
      max-height: calc(100vh - 120px);
      overflow: auto;
      margin: -4px;
      padding: 4px;
    }
  }
  h2 {
    font-size: 20px;
  }
`;

const Shared = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
`;

const Facts = styled.dl`
  display: grid;
  grid-template-columns: 1fr auto;
  > * {
    padding: 6px 0;
    border-top: 1px solid var(--line);
  }
`;

interface WhatIsCountedProps {
  id: string;
  figures: Figures;
  counted: Counted;
  onCounted: (next: Partial<Counted>) => void;
  /** What else stands in the pane. */
  children: ReactNode;
}

export function WhatIsCounted(props: WhatIsCountedProps) {
  const { id, figures, counted, onCounted, children } = props;
  const [isFiltering, setFiltering] = useState<"" | "these" | "beside">("");
  const columns = useQuery(entryColumns(id)).data?.columns;
  const subjects = useMemo(() => subjectsOf(columns ?? []), [columns]);
  const mayWrite = useRight("write");
  const { view, beside } = counted;
  return (
    <Side aria-label="What is counted">
      <div>
        <h2>What is counted</h2>
        <Said>
          <CountedWords
            counted={counted}
            subjects={subjects}
            isFiltering={isFiltering === "these"}
            onFiltering={() => setFiltering(isFiltering === "these" ? "" : "these")}
            onCounted={onCounted}
          />
          . Beside them stand{" "}
          <Filtered
            aria-expanded={isFiltering === "beside"}
            onPress={() => setFiltering(isFiltering === "beside" ? "" : "beside")}
          >
            {beside ? `entries ${which(beside, subjects)}` : "no others"}
          </Filtered>
        </Said>
        {isFiltering ? (
          <FilterPart
            key={isFiltering}
            things="entries"
            view={(isFiltering === "these" ? view : beside) ?? {}}
            subjects={subjects}
            onView={(next) =>
              onCounted(isFiltering === "these" ? { view: next } : { beside: next })
            }
            onClose={() => setFiltering("")}
          />
        ) : null}
        {isFiltering === "beside" || beside ? (
          <p>
            {beside ? (
              <Button weight="word" onPress={() => onCounted({ beside: undefined })}>
                Put nothing beside
              </Button>
            ) : (
              <Button
                weight="word"
                onPress={() => {
                  onCounted({ beside: {} });
                  setFiltering("");
                }}
              >
                Put all entries beside
              </Button>
            )}
          </p>
        ) : null}
        <Facts>
          <dt>Entries counted</dt>
          <dd>{many(figures.entries)}</dd>
          {figures.beside ? (
            <>
              <dt>Beside them</dt>
              <dd>{many(figures.beside.entries)}</dd>
            </>
          ) : null}
          <dt>Entries in all</dt>
          <dd>{many(figures.total)}</dd>
        </Facts>
        {figures.lag ? (
          <Strip>
            {figures.lag === 1 ? "One entry is" : `${many(figures.lag)} entries are`} so new that a
            filter does not find {figures.lag === 1 ? "it" : "them"} yet.
          </Strip>
        ) : null}
        {children}
        <Quiet>
          Lines across the bars are 95 % intervals: Wilson’s for shares, Student’s for means.
          {beside ? " Columns are as high as the fullest one of their group. " : " "}
          Counted again every ten seconds.
        </Quiet>
        <a href={figuresAddress(id, counted)} download="">
          Export all figures as CSV
        </a>
        {beside ? (
          <a href={figuresAddress(id, { ...counted, view: beside })} download="">
            Export those beside as CSV
          </a>
        ) : null}
        <DataPart id={id} counted={counted} />
        <h2>For others</h2>
        <Quiet>Pages of figures that people read without signing in.</Quiet>
        <Shared>
          <Link to="/q/$id/figures/pages" params={{ id }}>
            Pages to share
          </Link>
          {mayWrite && figures.entries ? (
            <Link
              to="/q/$id/figures/pages"
              params={{ id }}
              search={{ page: "new", view, archived: counted.archived, of: counted.of }}
            >
              Put these on a new page
            </Link>
          ) : null}
        </Shared>
      </div>
    </Side>
  );
}
