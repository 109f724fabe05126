/** What went wrong with a change to how one signs in; where it has been a while, the password is asked
 * for once more. */
import { useState } from "react";

import { ApiError, client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { faultAt, otherFault, useDoing } from "../useDoing";

interface ConfirmProps {
  error: Error | null;
  /** Called once one has shown who one is: the same can be asked for again. */
  onConfirmed: () => void;
}

export function Confirm({ error, onConfirmed }: ConfirmProps) {
  const [password, setPassword] = useState("");
  const confirming = useDoing(
    () => got(client.POST("/api/account/confirm", { body: { password } })),
    [],
    () => {
      setPassword("");
      onConfirmed();
    },
  );
  if (!error) return null;
  if (!(error instanceof ApiError) || error.code !== "needs_confirming") {
    return <Strip tone="wrong">{error.message}</Strip>;
  }
  const other = otherFault(confirming.error, ["password"]);
  return (
    <form
      style={{ display: "grid", gap: 10, justifyItems: "start" }}
      onSubmit={(event) => {
        event.preventDefault();
        confirming.mutate();
      }}
    >
      <Strip>{other ?? error.message}</Strip>
      <Field
        label="Your password"
        type="password"
        autoComplete="current-password"
        value={password}
        error={faultAt(confirming.error, "password")}
        onChange={setPassword}
      />
      <Button weight="main" type="submit" isDisabled={!password || confirming.isPending}>
        It is me
      </Button>
    </form>
  );
}
