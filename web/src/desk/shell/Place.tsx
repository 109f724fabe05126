/** One questionnaire: its places in the order of the work as stations on a line, and its gate. */
import { useQuery } from "@tanstack/react-query";
import { Link, Outlet, useParams } from "@tanstack/react-router";
import styled from "styled-components";

import { GateTag } from "../../ui/Arm";
import { Quiet } from "../../ui/text";
import { questionnaire } from "../data";
import { count } from "../document";
import { gateTag } from "../gateTag";
import { Loaded } from "./states";
import { useHeight, WIDE } from "./head";

const Way = styled.nav`
  ${WIDE} {
    position: sticky;
    top: 0;
    z-index: 3;
  }
  min-height: 54px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
  padding: 4px 18px;
  ol {
    display: flex;
    flex-wrap: wrap;
  }
  li {
    position: relative;
  }
  li::before {
    content: "";
    position: absolute;
    top: 10px;
    inset-inline: 0;
    height: 2px;
    background: var(--line-2);
  }
  li:first-child::before {
    inset-inline-start: 50%;
  }
  li:last-child::before {
    inset-inline-end: 50%;
  }
  ol a {
    display: block;
    position: relative;
    min-width: 78px;
    padding: 21px 6px 2px;
    text-align: center;
    font-size: 13.5px;
    font-weight: 500;
    color: var(--ink-2);
    text-decoration: none;
  }
  ol a::before {
    content: "";
    position: absolute;
    top: 5px;
    inset-inline-start: calc(50% - 6px);
    width: 12px;
    height: 12px;
    border-radius: 50%;
    background: var(--paper);
    border: 2px solid var(--accent-mid);
  }
  a[aria-current="page"] {
    color: var(--ink);
    font-weight: 700;
  }
  ol a[aria-current="page"]::before {
    background: var(--accent);
    border-color: var(--accent);
    box-shadow: 0 0 0 4px var(--accent-soft);
  }
`;

const Title = styled.h1`
  font-size: 17px;
  max-width: 320px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;

const State = styled.div`
  margin-inline-start: auto;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
`;

/** Each place with the right that it takes to see it. */
const PLACES = [
  { to: "/q/$id/script", label: "Script", right: "review" },
  { to: "/q/$id/map", label: "Map", right: "review" },
  { to: "/q/$id/links", label: "Links", right: "review" },
  { to: "/q/$id/gate", label: "Gate", right: "review" },
  { to: "/q/$id/rounds", label: "Rounds", right: "review" },
  { to: "/q/$id/dispatch", label: "Dispatch", right: "review" },
  { to: "/q/$id/entries", label: "Entries", right: "read" },
  { to: "/q/$id/figures", label: "Figures", right: "read" },
] as const;

/** Where a place puts its own buttons: at the end of the line. */
export const PLACE_ACTIONS = "place-actions";

const Actions = styled.span`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  &:empty {
    display: none;
  }
`;

export function usePlaceId(): string {
  return useParams({ from: "/q/$id" }).id;
}

export function Place() {
  const id = usePlaceId();
  const query = useQuery(questionnaire(id));
  const measure = useHeight();
  return (
    <Loaded query={query} stands="page">
      {(found) => (
        <>
          <Way ref={measure} aria-label="The way of this questionnaire">
            <Title>{found.title || "Untitled"}</Title>
            <ol>
              {PLACES.filter(({ right }) => found.rights.includes(right)).map(({ to, label }) => (
                <li key={to}>
                  <Link to={to} params={{ id }}>
                    {label}
                  </Link>
                </li>
              ))}
            </ol>
            <State>
              {found.edition === null ? (
                <Quiet>Not published</Quiet>
              ) : (
                <>
                  <GateTag {...gateTag(found)} />
                  <Quiet>
                    Edition {found.edition},{" "}
                    {found.most === null
                      ? count(found.entries, "entry")
                      : `${found.taken ?? 0} of ${found.most} places`}
                  </Quiet>
                </>
              )}
              {found.rights.includes("share") ? (
                <Link to="/q/$id/people" params={{ id }}>
                  People
                </Link>
              ) : null}
              <Actions id={PLACE_ACTIONS} />
            </State>
          </Way>
          <main id="main">
            <Outlet />
          </main>
        </>
      )}
    </Loaded>
  );
}
