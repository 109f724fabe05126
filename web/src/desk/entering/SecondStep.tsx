/** What is asked for after the password: a one-time code, one for recovery, or a passkey. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ApiError, client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { me } from "../data";
import { Frame, Others } from "./Frame";
import { CAN, signInByPasskey } from "./passkey";

interface StepProps {
  office: string | undefined;
  step: Schema<"NextStep">;
  onBack: () => void;
}

export function SecondStep({ office, step, onBack }: StepProps) {
  const queries = useQueryClient();
  const [code, setCode] = useState("");
  const done = (person: Schema<"Me">) => queries.setQueryData(me.queryKey, person);
  const sending = useMutation({
    mutationFn: () =>
      got(client.POST("/api/sign-in/code", { body: { ticket: step.ticket, code } })),
    onSuccess: done,
  });
  const using = useMutation({ mutationFn: signInByPasskey, onSuccess: done });
  const error = sending.error ?? using.error;
  const over = error instanceof ApiError && error.code === "not_signed_in";
  return (
    <Frame office={office} title="One more step">
      {error ? (
        <Strip tone="wrong">
          {error.message}
          {over ? <Button onPress={onBack}>Enter the password again</Button> : null}
        </Strip>
      ) : null}
      {step.ways.includes("code") ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            sending.mutate();
          }}
        >
          <Field
            label="Code"
            help="The six digits that your app shows, or one of your codes for recovery."
            autoComplete="one-time-code"
            inputMode="text"
            value={code}
            onChange={setCode}
            // The page was asked for: its only field has the focus.
            autoFocus
            isRequired
          />
          <Button weight="main" type="submit" isDisabled={!code.trim() || sending.isPending}>
            Sign in
          </Button>
        </form>
      ) : null}
      <Others>
        {step.ways.includes("passkey") && CAN ? (
          <Button onPress={() => using.mutate()} isDisabled={using.isPending}>
            Use a passkey
          </Button>
        ) : null}
        <Button weight="word" onPress={onBack}>
          Back
        </Button>
      </Others>
      <p style={{ marginTop: 14, color: "var(--ink-2)" }}>
        No phone and no code left? Ask an owner of the office to take away your second factor.
      </p>
    </Frame>
  );
}
