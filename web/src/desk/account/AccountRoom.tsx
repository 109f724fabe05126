/** One's own account: name, password, second factors, sessions, tokens, leaving. */
import { useState } from "react";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { me, ownAccount } from "../data";
import { Confirm } from "../entering/Confirm";
import { useMe } from "../shell/me";
import { RoomHead } from "../shell/Office";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { Factors } from "./Factors";
import { Sessions } from "./Sessions";
import { Tokens } from "./Tokens";

const Whole = styled.div`
  display: grid;
  gap: 30px;
  max-width: 760px;
  > section {
    display: grid;
    gap: 12px;
    justify-items: start;
  }
  section > * {
    width: 100%;
  }
  section > button {
    width: auto;
  }
  h2 {
    font-size: 18px;
    border-bottom: 1px solid var(--line-2);
    padding-bottom: 4px;
  }
`;

function Name() {
  const person = useMe();
  const [name, setName] = useState(person.name);
  const saving = useDoing(
    () => got(client.PUT("/api/account/name", { body: { name } })),
    [me.queryKey],
  );
  return (
    <form
      style={{ display: "grid", gap: 10, justifyItems: "start" }}
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      {saving.error ? <Strip tone="wrong">{saving.error.message}</Strip> : null}
      <Field label="Name" value={name} onChange={setName} style={{ width: "100%" }} />
      <Button
        type="submit"
        isDisabled={!name.trim() || name.trim() === person.name || saving.isPending}
      >
        Save the name
      </Button>
    </form>
  );
}

const SHOWN = ["current", "password"];

function Password() {
  const [current, setCurrent] = useState("");
  const [password, setPassword] = useState("");
  const saving = useDoing(
    () => got(client.PUT("/api/account/password", { body: { current, password } })),
    [ownAccount.queryKey, ["sessions"]],
    () => {
      setCurrent("");
      setPassword("");
    },
  );
  const other = otherFault(saving.error, SHOWN);
  return (
    <section aria-label="Password">
      <h2>Password</h2>
      <form
        style={{ display: "grid", gap: 12, justifyItems: "start" }}
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        {other ? <Strip tone="wrong">{other}</Strip> : null}
        {saving.isSuccess ? (
          <Strip tone="calm">The new password holds. You were signed out everywhere else.</Strip>
        ) : null}
        <Field
          label="Password as it is now"
          type="password"
          autoComplete="current-password"
          value={current}
          error={faultAt(saving.error, "current")}
          onChange={setCurrent}
          style={{ width: "100%" }}
        />
        <Field
          label="New password"
          help="At least 12 characters. A few words that do not belong together are easy to remember."
          type="password"
          autoComplete="new-password"
          value={password}
          error={faultAt(saving.error, "password")}
          onChange={setPassword}
          style={{ width: "100%" }}
        />
        <Button type="submit" isDisabled={!password || saving.isPending}>
          Change the password
        </Button>
      </form>
    </section>
  );
}

function Leaving() {
  const [asking, setAsking] = useState(false);
  const leaving = useDoing(
    () => got(client.POST("/api/account/leave", { body: {} })),
    [],
    () => window.location.assign("/desk"),
  );
  return (
    <section aria-label="Leaving">
      <h2>Leaving</h2>
      <p>
        Your account is closed, and your parts and clearance end. Your name stays on what you did.
        To pass your parts on, ask an owner of the office.
      </p>
      <Button onPress={() => setAsking(true)}>Leave the office</Button>
      {asking ? (
        <Sheet title="Leave the office?" open onClose={() => setAsking(false)}>
          <Confirm error={leaving.error} onConfirmed={() => leaving.reset()} />
          <p>You will be signed out everywhere. An owner can open the account again.</p>
          <Actions>
            <Button onPress={() => setAsking(false)}>Cancel</Button>
            <Button weight="main" isDisabled={leaving.isPending} onPress={() => leaving.mutate()}>
              Leave
            </Button>
          </Actions>
        </Sheet>
      ) : null}
    </section>
  );
}

export function AccountRoom() {
  const person = useMe();
  return (
    <>
      <RoomHead>
        <h1>Your account</h1>
        <Quiet>
          {person.email}, {person.role ? `${person.role} of the office` : "parts in single things"}
        </Quiet>
      </RoomHead>
      <Whole>
        <Name />
        <Password />
        <Factors />
        <Sessions />
        <Tokens />
        <Leaving />
      </Whole>
    </>
  );
}
