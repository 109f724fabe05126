/** Signing in: by password and code, by passkey, through the identity provider; a forgotten password. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { me, signInWays } from "../data";
import { Forgotten } from "./Forgotten";
import { Frame, Others } from "./Frame";
import { CAN, signInByPasskey } from "./passkey";
import { SecondStep } from "./SecondStep";

type Ways = Schema<"SignInWays">;
type Next = Schema<"NextStep">;

const REFUSED: Record<string, string> = {
  wrong_sign_in:
    "There is no account here for you, or the provider's answer could not be used. Ask an owner of the office.",
  not_signed_in: "That sign-in took too long, or was begun in another window. Begin again.",
  away: "The identity provider does not answer. Try again shortly, or sign in another way.",
};

/** What went wrong at the identity provider, which sends the browser back here. */
function refusal(): string | null {
  const code = new URLSearchParams(window.location.search).get("provider");
  return code === null ? null : (REFUSED[code] ?? "Signing in did not work. Begin again.");
}

interface PasswordProps {
  onStep: (step: Next) => void;
  onForgotten: (email: string) => void;
}

function Password({ onStep, onForgotten }: PasswordProps) {
  const queries = useQueryClient();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const signing = useMutation({
    mutationFn: () => got(client.POST("/api/sign-in", { body: { email, password } })),
    onSuccess: (found) =>
      "ticket" in found ? onStep(found) : queries.setQueryData(me.queryKey, found),
  });
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        signing.mutate();
      }}
    >
      {signing.error ? <Strip tone="wrong">{signing.error.message}</Strip> : null}
      <Field
        label="Email"
        type="email"
        autoComplete="username"
        value={email}
        onChange={setEmail}
        isRequired
      />
      <Field
        label="Password"
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={setPassword}
        isRequired
      />
      <Button weight="main" type="submit" isDisabled={signing.isPending}>
        Sign in
      </Button>
      <Button weight="word" onPress={() => onForgotten(email)}>
        I have forgotten my password
      </Button>
    </form>
  );
}

function OtherWays({ ways }: { ways: Ways }) {
  const queries = useQueryClient();
  const signing = useMutation({
    mutationFn: signInByPasskey,
    onSuccess: (person) => queries.setQueryData(me.queryKey, person),
  });
  if (!ways.provider && !(ways.passkeys && CAN)) return null;
  return (
    <>
      {signing.error ? <Strip tone="wrong">{signing.error.message}</Strip> : null}
      <Others>
        {ways.passkeys && CAN ? (
          <Button isDisabled={signing.isPending} onPress={() => signing.mutate()}>
            Sign in with a passkey
          </Button>
        ) : null}
        {ways.provider ? (
          <Button onPress={() => window.location.assign("/api/sign-in/provider")}>
            Sign in with {ways.provider}
          </Button>
        ) : null}
      </Others>
    </>
  );
}

export function SignIn() {
  const ways = useQuery(signInWays).data;
  const [step, setStep] = useState<Next | null>(null);
  const [forgotten, setForgotten] = useState<string | null>(null);
  const refused = refusal();
  const office = ways?.office;
  if (step) return <SecondStep office={office} step={step} onBack={() => setStep(null)} />;
  if (forgotten !== null) {
    return <Forgotten office={office} email={forgotten} onBack={() => setForgotten(null)} />;
  }
  return (
    <Frame office={office} title="Sign in">
      {refused ? <Strip tone="wrong">{refused}</Strip> : null}
      {ways?.passwords === false ? null : <Password onStep={setStep} onForgotten={setForgotten} />}
      {ways ? <OtherWays ways={ways} /> : null}
    </Frame>
  );
}
