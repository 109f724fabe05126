/** A new password by a letter. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { Frame } from "./Frame";

interface ForgottenProps {
  office: string | undefined;
  email: string;
  onBack: () => void;
}

export function Forgotten({ office, email, onBack }: ForgottenProps) {
  const [address, setAddress] = useState(email);
  const asking = useMutation({
    mutationFn: () => got(client.POST("/api/reset", { body: { email: address } })),
  });
  if (asking.isSuccess) {
    return (
      <Frame office={office} title="Look in your mail">
        <section>
          <p role="status">
            If {address} belongs to an account here, a letter is on its way. Its link works once,
            for an hour.
          </p>
          <Button onPress={onBack}>Back to signing in</Button>
        </section>
      </Frame>
    );
  }
  return (
    <Frame office={office} title="A new password">
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          asking.mutate();
        }}
      >
        {asking.error ? <Strip tone="wrong">{asking.error.message}</Strip> : null}
        <Field
          label="Email"
          help="A letter with a link to set a new password goes there."
          type="email"
          autoComplete="username"
          value={address}
          onChange={setAddress}
          autoFocus
          isRequired
        />
        <Button weight="main" type="submit" isDisabled={!address.trim() || asking.isPending}>
          Send the letter
        </Button>
        <Button weight="word" onPress={onBack}>
          Back
        </Button>
      </form>
    </Frame>
  );
}
