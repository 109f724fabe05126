/** Signing in. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { Arm } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { me } from "../data";

const Middle = styled.main`
  max-width: 400px;
  margin: 12vh auto 40px;
  padding: 0 20px;
  h1 {
    font-size: 26px;
    margin: 6px 0 18px;
  }
  form {
    display: grid;
    gap: 16px;
  }
`;

const Brand = styled.p`
  font: 700 17px var(--head);
  color: var(--accent);
  display: flex;
  gap: 9px;
  align-items: center;
`;

export function SignIn() {
  const queries = useQueryClient();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const signing = useMutation({
    mutationFn: () => got(client.POST("/api/sign-in", { body: { email, password } })),
    onSuccess: (person) => queries.setQueryData(me.queryKey, person),
  });
  return (
    <Middle id="main">
      <Brand>
        <Arm state="open" size={20} />
        Jot Gate
      </Brand>
      <h1>Sign in</h1>
      <form
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
      </form>
    </Middle>
  );
}
