/** Figures: the script with its answers written in, and what is counted as a sentence. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import styled from "styled-components";

import { NoEntries } from "../entries/reading/Told";
import { count } from "../document";
import { usePlaceId } from "../shell/Place";
import { Empty, Loaded } from "../shell/states";
import { Button } from "../../ui/Button";
import { ArrivalsPart } from "./ArrivalsPart";
import { CrossingPart } from "./CrossingPart";
import { figuresQuery, questionsOf, type Counted, type Figures, type Pair } from "./data";
import { QuestionPart } from "./QuestionPart";
import { SideBySide } from "./SideBySide";
import { WhatIsCounted } from "./WhatIsCounted";

const Whole = styled.div`
  display: grid;
  grid-template-columns: 208px minmax(0, 1fr) 344px;
  min-height: calc(100vh - 102px);
  @media (max-width: 1180px) {
    grid-template-columns: minmax(0, 1fr) 300px;
  }
  @media (max-width: 860px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Pages = styled.nav`
  background: var(--mist);
  border-inline-end: 1px solid var(--line);
  padding: 16px;
  ol {
    display: grid;
    gap: 10px;
    position: sticky;
    top: calc(16px + var(--way, 0px));
  }
  a {
    font-weight: 600;
    color: var(--ink);
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
  @media (max-width: 1180px) {
    display: none;
  }
`;

const Questions = styled.div`
  padding: 18px clamp(12px, 2.2vw, 28px) 60px;
  min-width: 0;
  > section > h2 {
    font-size: 19px;
    padding-block: 16px 6px;
    border-bottom: 1px solid var(--line-2);
  }
  @media (max-width: 860px) {
    order: 2;
  }
`;

type Changed = Partial<Counted> & { pair?: Pair | undefined };

/** What is counted stands in the address. */
function useCounted() {
  const search = useSearch({ from: "/q/$id/figures" });
  const { view = {}, archived = false, of = "answered", pair, beside } = search;
  const id = usePlaceId();
  const navigate = useNavigate();
  const counted: Counted = { view, archived, of, beside };
  const onCounted = (next: Changed) =>
    void navigate({
      to: "/q/$id/figures",
      params: { id },
      search: (now) => ({ ...now, ...next }),
      replace: true,
    });
  return { id, counted, pair, onCounted };
}

const titled = ({ number, title }: Figures["pages"][number]) =>
  number ? `${number} ${title || "Untitled page"}` : "Not asked any more";

export function FiguresPlace() {
  const { id, counted, pair, onCounted } = useCounted();
  const query = useQuery(figuresQuery(id, counted));
  return (
    <Loaded query={query} stands="part">
      {(figures) =>
        figures.total ? (
          <Counts id={id} figures={figures} counted={counted} pair={pair} onCounted={onCounted} />
        ) : (
          <NoEntries id={id} />
        )
      }
    </Loaded>
  );
}

interface CountsProps {
  id: string;
  figures: Figures;
  counted: Counted;
  pair: Pair | undefined;
  onCounted: (next: Changed) => void;
}

/** The same question as it stands beside. */
function besideOf({ beside }: Figures, key: string) {
  const one = beside ? questionsOf(beside).find((other) => other.key === key) : undefined;
  return beside && one ? { one, entries: beside.entries } : undefined;
}

/** What two questions are called, one by the other. */
function paired(figures: Figures, { rows, columns }: Pair): string {
  const all = questionsOf(figures);
  const label = (key: string) => all.find((one) => one.key === key)?.label ?? key;
  return `${label(rows)} by ${label(columns)}`;
}

function Counts({ id, figures, counted, pair, onCounted }: CountsProps) {
  return (
    <Whole>
      <Pages aria-label="Pages">
        <ol>
          {figures.arrivals ? (
            <li>
              <a href="#arrivals">When they arrived</a>
            </li>
          ) : null}
          {figures.pages.map((page) => (
            <li key={page.number}>
              <a href={`#page-${page.number}`}>{titled(page)}</a>
              <br />
              {count(page.questions.length, "question")}
            </li>
          ))}
        </ol>
      </Pages>
      <Questions>
        {pair?.rows && pair.columns && figures.entries ? (
          <CrossingPart id={id} counted={counted} pair={pair} name={paired(figures, pair)} />
        ) : null}
        {figures.arrivals ? (
          <ArrivalsPart arrivals={figures.arrivals} beside={figures.beside?.arrivals} />
        ) : null}
        {figures.entries || figures.beside?.entries ? (
          figures.pages.map((page) => (
            <section key={page.number} aria-label={titled(page)}>
              <h2 id={`page-${page.number}`}>{titled(page)}</h2>
              {page.questions.map((one) => (
                <QuestionPart
                  key={one.key}
                  one={one}
                  entries={figures.entries}
                  id={id}
                  counted={counted}
                  beside={besideOf(figures, one.key)}
                />
              ))}
            </section>
          ))
        ) : (
          <Empty title="No entry is like that">
            <Button onPress={() => onCounted({ view: {}, archived: true })}>
              Count all entries
            </Button>
          </Empty>
        )}
      </Questions>
      <WhatIsCounted id={id} figures={figures} counted={counted} onCounted={onCounted}>
        <SideBySide
          figures={figures}
          pair={pair}
          onPair={(next) => {
            onCounted({ pair: next });
            scrollTo({ top: 0 });
          }}
        />
      </WhatIsCounted>
    </Whole>
  );
}
