/** Stands in the way of everything else where the office asks for a second factor. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { me, ownAccount } from "../data";
import { signOut } from "../signOut";
import { CodesSetup } from "./CodesSetup";
import { Frame, Others } from "./Frame";
import { CAN, makePasskey } from "./passkey";

export function FactorNeeded({ person }: { person: Schema<"Me"> }) {
  const queries = useQueryClient();
  const [codes, setCodes] = useState(false);
  const standing = useQuery(ownAccount).data;
  const done = () => void queries.resetQueries(me);
  const making = useMutation({ mutationFn: () => makePasskey("This device"), onSuccess: done });
  const leaving = useMutation({ mutationFn: signOut });
  return (
    <Frame office={person.office} title="A second factor">
      <section>
        <p>
          {person.office} asks for one, so that a password that got lost opens nothing. It takes a
          minute.
        </p>
        {making.error ? <Strip tone="wrong">{making.error.message}</Strip> : null}
        {leaving.error ? <Strip tone="wrong">{leaving.error.message}</Strip> : null}
        {codes ? (
          <CodesSetup onDone={done} />
        ) : (
          <>
            {standing?.passkeys_possible && CAN ? (
              <Button weight="main" isDisabled={making.isPending} onPress={() => making.mutate()}>
                Make a passkey on this device
              </Button>
            ) : null}
            <Button onPress={() => setCodes(true)}>Use one-time codes of an app</Button>
          </>
        )}
      </section>
      <Others>
        <Button weight="word" isDisabled={leaving.isPending} onPress={() => leaving.mutate()}>
          Sign out
        </Button>
      </Others>
    </Frame>
  );
}
