/** Where visitors may sign in, or have to. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Toggle } from "../../ui/Toggle";
import { useMe } from "../shell/me";
import { providerNames } from "./data";

type SignIn = Schema<"VisitorSignIn">;

const Whole = styled.section`
  display: grid;
  gap: 8px;
  max-width: 520px;
`;

interface SignInProps {
  signIn: SignIn;
  error: string | undefined;
  onChange: (signIn: SignIn) => void;
}

export function SignInPart({ signIn, error, onChange }: SignInProps) {
  const known = useQuery(providerNames).data ?? [];
  const runs = useMe().rights.includes("run");
  const chosen = signIn.providers ?? [];
  const setup = runs ? <Link to="/visitor-sign-in">Set up where visitors sign in</Link> : null;
  return (
    <Whole>
      <h2>Signing in</h2>
      {known.length ? (
        <>
          <p>Visitors may sign in here, and what is known of them is filled in:</p>
          {known.map(({ id, name }) => (
            <Toggle
              key={id}
              isSelected={chosen.includes(id)}
              onChange={(on) =>
                onChange({
                  ...signIn,
                  providers: on ? [...chosen, id] : chosen.filter((one) => one !== id),
                })
              }
            >
              {name}
            </Toggle>
          ))}
          <Toggle
            isSelected={signIn.needed ?? false}
            onChange={(needed) => onChange({ ...signIn, needed })}
          >
            Nobody answers without signing in
          </Toggle>
        </>
      ) : (
        <p>There is no identity provider for visitors yet.</p>
      )}
      {error ? <b role="alert">{error}</b> : null}
      {setup}
    </Whole>
  );
}
