/** Where visitors sign in: identity providers, looked at before they are saved. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Mono, Quiet } from "../../ui/text";
import { RoomHead } from "../shell/Office";
import { Loaded } from "../shell/states";
import { providerSetup } from "./data";
import { ProviderForm } from "./ProviderForm";

type Kept = Schema<"ProviderOut">;

const Whole = styled.div`
  display: grid;
  gap: 16px;
  max-width: 760px;
`;

const NEW = "new";

function Providers({ back, providers }: { back: string; providers: readonly Kept[] }) {
  const [open, setOpen] = useState(providers.length ? "" : NEW);
  const close = () => setOpen("");
  return (
    <Whole>
      <p>
        A provider that speaks OpenID Connect tells us who a visitor is. Register this address
        there, for it to send visitors back to: <Mono>{back}</Mono>
      </p>
      {providers.length ? (
        <Lines>
          {providers.map(({ id, provider }) => (
            <li key={id}>
              <b>{provider.name}</b> <Mono>{provider.issuer}</Mono>
              <Button
                weight="word"
                aria-label={`Change ${provider.name}`}
                onPress={() => setOpen(id)}
              >
                Change
              </Button>
            </li>
          ))}
        </Lines>
      ) : null}
      {open === NEW ? <ProviderForm kept={null} onDone={close} /> : null}
      {providers.map((kept) =>
        kept.id === open ? (
          <ProviderForm key={`${kept.id} ${kept.revision}`} kept={kept} onDone={close} />
        ) : null,
      )}
      {open ? null : (
        <div>
          <Button onPress={() => setOpen(NEW)}>Add a provider</Button>
        </div>
      )}
    </Whole>
  );
}

export function SignInRoom() {
  const query = useQuery(providerSetup);
  return (
    <>
      <RoomHead>
        <h1>Visitors’ sign-in</h1>
        <Quiet>Each questionnaire says under Links whether visitors may, or have to</Quiet>
      </RoomHead>
      <Loaded query={query}>
        {({ back, providers }) => <Providers back={back} providers={providers} />}
      </Loaded>
    </>
  );
}
