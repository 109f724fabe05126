/** The rooms that belong to no one questionnaire, with the list of them at the side. */
import { Link, Outlet } from "@tanstack/react-router";
import styled from "styled-components";

import { useMe } from "./me";

const Whole = styled.div`
  display: grid;
  grid-template-columns: 212px minmax(0, 1fr);
  min-height: calc(100vh - 48px);
  @media (max-width: 760px) {
    grid-template-columns: minmax(0, 1fr);
    align-content: start;
  }
`;

const Side = styled.nav`
  background: var(--mist);
  border-inline-end: 1px solid var(--line);
  padding: 18px 0;
  a {
    display: block;
    padding: 7px 18px;
    color: var(--ink-2);
    font-weight: 500;
    text-decoration: none;
  }
  a:hover {
    color: var(--ink);
  }
  a[aria-current="page"] {
    background: var(--paper);
    color: var(--ink);
    font-weight: 700;
    box-shadow: inset 4px 0 0 var(--accent);
  }
  h2 {
    font: 600 13px var(--body);
    color: var(--ink-3);
    padding: 16px 18px 4px;
  }
  @media (max-width: 760px) {
    display: flex;
    flex-wrap: wrap;
    padding: 4px 0;
    h2 {
      display: none;
    }
  }
`;

const Room = styled.main`
  padding: 24px clamp(14px, 3vw, 30px);
`;

export function Office() {
  const { rights } = useMe();
  return (
    <Whole>
      <Side aria-label="Rooms">
        <Link to="/" activeOptions={{ exact: true }}>
          Desk
        </Link>
        <Link to="/registers">Registers</Link>
        {rights.includes("reach") ? <Link to="/contacts">Contacts</Link> : null}
        {rights.includes("follow") ? <Link to="/trail">Trail</Link> : null}
        {rights.includes("run") ? (
          <>
            <h2>Office</h2>
            <Link to="/people">People</Link>
            <Link to="/office">Settings</Link>
            <Link to="/visitor-sign-in">Visitors’ sign-in</Link>
          </>
        ) : null}
        {rights.includes("follow") ? (
          <>
            <h2>Outside world</h2>
            <Link to="/mail-room">Mail room</Link>
          </>
        ) : null}
        <h2>You</h2>
        <Link to="/account">Your account</Link>
        <h2>About</h2>
        <a href="/licences">Licences</a>
      </Side>
      <Room id="main">
        <Outlet />
      </Room>
    </Whole>
  );
}

/** The heading of a room with what can be done there. */
export const RoomHead = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: baseline;
  margin-bottom: 18px;
  h1 {
    font-size: 26px;
  }
  > :last-child:not(h1):not(span) {
    margin-inline-start: auto;
  }
`;
