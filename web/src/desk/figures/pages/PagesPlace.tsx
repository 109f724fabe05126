/** Pages to share: those there are, and the one that is open. */
import { useQuery } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import styled from "styled-components";

import { Lines } from "../../../ui/Lines";
import { Quiet } from "../../../ui/text";
import { usePlaceId } from "../../shell/Place";
import { useRight } from "../../shell/rights";
import { Loaded, Lost } from "../../shell/states";
import { onDay, onLastDay, whenAmid } from "../../when";
import { entryColumns } from "../../entries/data";
import { aroundOf, type Around } from "./around";
import { sharedPages, whole, type SharedPage } from "./data";
import { NewPage, OnePage } from "./OnePage";

const Whole = styled.div`
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  min-height: calc(100vh - 102px);
  > nav {
    background: var(--mist);
    border-inline-end: 1px solid var(--line);
    padding: 18px 16px 24px;
    display: grid;
    gap: 12px;
    align-content: start;
    min-width: 0;
  }
  > nav h2 {
    font-size: 20px;
  }
  @media (max-width: 860px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const List = styled(Lines)`
  li {
    position: relative;
    padding: 8px 10px;
    border-radius: 4px;
    overflow-wrap: anywhere;
  }
  li[data-now] {
    background: var(--paper);
  }
  a {
    display: block;
    font-weight: 600;
    color: var(--ink);
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
  a::after {
    content: "";
    position: absolute;
    inset: 0;
  }
`;

const Middle = styled.div`
  padding: 20px clamp(12px, 2.4vw, 30px) 60px;
  max-width: 860px;
  min-width: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 18px;
  align-content: start;
`;

/** Whether people find it, and what its figures follow. */
function state({ closed, content, live, open, counted }: SharedPage): string {
  if (closed) return `closed on ${onDay(closed)}`;
  if (!open && content.until) return `expired after ${onLastDay(content.until)}`;
  return live || !counted ? "follows what arrives" : `as of ${whenAmid(counted)}`;
}

interface ChosenProps {
  pages: readonly SharedPage[];
  around: Around;
}

function Chosen({ pages, around }: ChosenProps) {
  const { page, view, archived, of } = useSearch({ from: "/q/$id/figures/pages" });
  const mayWrite = useRight("write");
  const found = pages.find(({ id }) => id === page);
  if (found) return <OnePage key={found.id} page={found} around={around} />;
  if (page === "new" && mayWrite) {
    const language = around.languages[0]?.code;
    if (!language) {
      return <p>Publish the questionnaire in Script. Its figures can then be shared.</p>;
    }
    const counted = {
      filter: view?.filter ?? null,
      archived: archived ?? false,
      of: of ?? "answered",
    };
    return <NewPage content={whole({ title: "", language, ...counted })} around={around} />;
  }
  if (page) return <Lost stands="part" />;
  return (
    <p>
      A page shows figures that you choose, with words between them, to whoever has its address: on
      a screen, on a phone, or on paper. It says nothing about anything else here.
    </p>
  );
}

export function PagesPlace() {
  const id = usePlaceId();
  const mayWrite = useRight("write");
  const { page } = useSearch({ from: "/q/$id/figures/pages" });
  const columns = useQuery(entryColumns(id));
  const query = useQuery(sharedPages(id));
  return (
    <Whole>
      <nav aria-label="Pages to share">
        <Link to="/q/$id/figures" params={{ id }}>
          All figures
        </Link>
        <h2>Pages to share</h2>
        {mayWrite ? (
          <Link to="/q/$id/figures/pages" params={{ id }} search={{ page: "new" }}>
            Make a page
          </Link>
        ) : null}
        <List>
          {(query.data ?? []).map((one) => (
            <li key={one.id} data-now={one.id === page || undefined}>
              <Link to="/q/$id/figures/pages" params={{ id }} search={{ page: one.id }}>
                {one.content.title}
              </Link>
              <Quiet>{state(one)}</Quiet>
            </li>
          ))}
        </List>
        {query.data?.length ? null : <Quiet>There is none yet.</Quiet>}
      </nav>
      <Middle>
        <Loaded query={query} stands="part">
          {(pages) => (
            <Loaded query={columns} stands="part">
              {({ columns: found }) => <Chosen pages={pages} around={aroundOf(found)} />}
            </Loaded>
          )}
        </Loaded>
      </Middle>
    </Whole>
  );
}
