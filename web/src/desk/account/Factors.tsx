/** Second factors of one's own: passkeys, one-time codes, codes for recovery. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Quiet } from "../../ui/text";
import { ownAccount } from "../data";
import { count } from "../document";
import { Confirm } from "../entering/Confirm";
import { CodesSetup, RecoveryCodes } from "../entering/CodesSetup";
import { CAN, makePasskey } from "../entering/passkey";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { onDay } from "../when";

type Standing = Schema<"StandingOut">;

function Passkeys({ standing }: { standing: Standing }) {
  const [name, setName] = useState("");
  const making = useDoing(
    () => makePasskey(name.trim() || "This device"),
    [ownAccount.queryKey],
    () => setName(""),
  );
  const removing = useDoing(
    (id: string) => got(client.DELETE("/api/account/passkeys/{id}", { params: { path: { id } } })),
    [ownAccount.queryKey],
  );
  const error = making.error ?? removing.error;
  const again = () => [making, removing].forEach((doing) => doing.reset());
  return (
    <>
      <h3>Passkeys</h3>
      <Quiet>
        Sign in with your device in place of a password: nothing to remember, nothing that can be
        lured out of you.
      </Quiet>
      <Confirm error={error} onConfirmed={again} />
      {standing.passkeys.length ? (
        <Lines aria-label="Passkeys">
          {standing.passkeys.map((passkey) => (
            <li key={passkey.id}>
              <b>{passkey.name}</b>
              <Quiet>
                added {onDay(passkey.added)}
                {passkey.used ? `, used ${onDay(passkey.used)}` : ", not used yet"}
              </Quiet>
              <Button
                weight="word"
                aria-label={`Remove ${passkey.name}`}
                onPress={() => removing.mutate(passkey.id)}
              >
                Remove
              </Button>
            </li>
          ))}
        </Lines>
      ) : null}
      {standing.passkeys_possible && CAN ? (
        <form
          style={{ display: "flex", flexWrap: "wrap", gap: 10, alignItems: "end" }}
          onSubmit={(event) => {
            event.preventDefault();
            making.mutate();
          }}
        >
          <Field
            label="Name of the device"
            placeholder="This device"
            value={name}
            onChange={setName}
          />
          <Button type="submit" isDisabled={making.isPending}>
            Make a passkey
          </Button>
        </form>
      ) : (
        <p>Passkeys need this installation to have an address with a name, over HTTPS.</p>
      )}
    </>
  );
}

function Codes({ standing }: { standing: Standing }) {
  const [open, setOpen] = useState(false);
  const removing = useDoing(() => got(client.DELETE("/api/account/codes")), [ownAccount.queryKey]);
  const renewing = useDoing(
    () => got(client.POST("/api/account/codes/recovery")),
    [ownAccount.queryKey],
  );
  const error = removing.error ?? renewing.error;
  const again = () => [removing, renewing].forEach((doing) => doing.reset());
  return (
    <>
      <h3>One-time codes</h3>
      <Confirm error={error} onConfirmed={again} />
      {standing.codes ? (
        <>
          <p>
            Your password asks for a code of your app. {count(standing.recovery_codes, "code")} for
            recovery {standing.recovery_codes === 1 ? "is" : "are"} left.
          </p>
          <p style={{ display: "flex", flexWrap: "wrap", gap: 10 }}>
            <Button onPress={() => renewing.mutate()}>New codes for recovery</Button>
            <Button onPress={() => setOpen(true)}>Use another phone</Button>
            <Button weight="word" onPress={() => removing.mutate()}>
              Remove one-time codes
            </Button>
          </p>
        </>
      ) : (
        <>
          <Quiet>Six digits from an app on your phone, after the password.</Quiet>
          <p>
            <Button onPress={() => setOpen(true)}>Set up one-time codes</Button>
          </p>
        </>
      )}
      {open ? (
        <Sheet title="One-time codes" open onClose={() => setOpen(false)}>
          <CodesSetup onDone={() => setOpen(false)} />
        </Sheet>
      ) : null}
      {renewing.data ? (
        <Sheet title="Codes for recovery" open onClose={() => renewing.reset()}>
          <RecoveryCodes codes={renewing.data.codes} onDone={() => renewing.reset()} />
        </Sheet>
      ) : null}
    </>
  );
}

export function Factors() {
  const query = useQuery(ownAccount);
  return (
    <section aria-label="Second factor">
      <h2>Second factor</h2>
      <Loaded query={query}>
        {(standing) => (
          <>
            {standing.required ? <Quiet>This office asks you for one.</Quiet> : null}
            <Passkeys standing={standing} />
            <Codes standing={standing} />
          </>
        )}
      </Loaded>
    </section>
  );
}
