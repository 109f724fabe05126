/** The frame of the staff application, and signing in where nobody is. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { Link, Outlet } from "@tanstack/react-router";
import styled from "styled-components";

import { ApiError, rememberToken, type Schema } from "../../client/client";
import { Arm } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { me } from "../data";
import { signOut } from "../signOut";
import { MeContext } from "./me";
import { FactorNeeded } from "../entering/FactorNeeded";
import { AT_LINK, LinkPage } from "../entering/LinkPage";
import { SignIn } from "../entering/SignIn";
import { Broken, Waiting } from "./states";

const Top = styled.header`
  min-height: 48px;
  background: var(--frame);
  color: var(--frame-ink);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 18px;
  padding: 4px 18px;
  :focus-visible {
    outline-color: var(--frame-ink-2);
  }
`;

const Brand = styled(Link)`
  font: 700 17px var(--head);
  color: inherit;
  text-decoration: none;
  display: flex;
  gap: 9px;
  align-items: center;
`;

const OfficeName = styled.span`
  color: var(--frame-ink-2);
  margin-inline-end: auto;
`;

const Own = styled(Link)`
  color: inherit;
`;

const Out = styled(Button)`
  && {
    background: none;
    border-color: var(--frame-ink-2);
    color: var(--frame-ink);
    min-height: 30px;
    padding: 3px 10px;
  }
`;

const Skip = styled.a`
  position: absolute;
  inset-inline-start: 8px;
  top: -60px;
  background: var(--paper);
  color: var(--ink);
  padding: 8px 12px;
  z-index: 20;
  &:focus {
    top: 6px;
  }
`;

function Signed({ person }: { person: Schema<"Me"> }) {
  const leaving = useMutation({ mutationFn: signOut });
  return (
    <MeContext.Provider value={person}>
      <Skip href="#main">Go to the content</Skip>
      <Top>
        <Brand to="/">
          <Arm state="open" size={20} />
          Jot Gate
        </Brand>
        <OfficeName>{person.office}</OfficeName>
        <Own to="/account">{person.name}</Own>
        <Out isDisabled={leaving.isPending} onPress={() => leaving.mutate()}>
          Sign out
        </Out>
      </Top>
      {leaving.error ? <Strip tone="wrong">{leaving.error.message}</Strip> : null}
      <Outlet />
    </MeContext.Provider>
  );
}

export function Shell() {
  return AT_LINK ? <LinkPage /> : <Inside />;
}

function Inside() {
  const query = useQuery(me);
  if (query.error instanceof ApiError && query.error.status === 401) return <SignIn />;
  if (query.isError)
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands="page" />;
  if (!query.data) return <Waiting />;
  rememberToken(query.data.csrf);
  if (query.data.limited) return <FactorNeeded person={query.data} />;
  return <Signed person={query.data} />;
}
