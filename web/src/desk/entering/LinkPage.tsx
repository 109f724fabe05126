/** The page behind a one-time link: the first owner's account, an invitation, a new password. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { link, me } from "../data";
import { faultAt, otherFault } from "../useDoing";
import { Frame } from "./Frame";

type Seen = Schema<"OneTimeLink">;

/** The secret stands behind `#`, which browsers send to nobody. */
const TOKEN = window.location.hash.slice(1);

export const AT_LINK = window.location.pathname === "/desk/link";

const TITLES: Record<Seen["purpose"], string> = {
  first_owner: "The first account",
  invitation: "Welcome",
  reset: "A new password",
};

function Says({ seen }: { seen: Seen }) {
  if (seen.purpose === "first_owner") {
    return <p>You become the owner of this office: you invite others, and say what each may do.</p>;
  }
  if (seen.purpose === "invitation") {
    return (
      <p>
        You are invited to work with {seen.office}. Choose a password for {seen.email}.
      </p>
    );
  }
  return <p>For {seen.email}. You will be signed out everywhere else.</p>;
}

const SHOWN = ["name", "email", "password"];

function Entering({ seen }: { seen: Seen }) {
  const queries = useQueryClient();
  const [name, setName] = useState(seen.name);
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const using = useMutation({
    mutationFn: () =>
      got(client.POST("/api/link/use", { body: { token: TOKEN, name, email, password } })),
    onSuccess: (person) => {
      if (person) queries.setQueryData(me.queryKey, person);
      window.location.replace("/desk");
    },
  });
  const other = otherFault(using.error, SHOWN);
  return (
    <Frame office={seen.office} title={TITLES[seen.purpose]}>
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          using.mutate();
        }}
      >
        <Says seen={seen} />
        {other ? <Strip tone="wrong">{other}</Strip> : null}
        {seen.purpose === "reset" ? null : (
          <Field
            label="Your name"
            autoComplete="name"
            value={name}
            onChange={setName}
            error={faultAt(using.error, "name")}
            isRequired
          />
        )}
        {seen.purpose === "first_owner" ? (
          <Field
            label="Email"
            type="email"
            autoComplete="username"
            value={email}
            onChange={setEmail}
            error={faultAt(using.error, "email")}
            isRequired
          />
        ) : (
          <input type="hidden" autoComplete="username" value={seen.email} readOnly />
        )}
        <Field
          label="Password"
          help="At least 12 characters. A few words that do not belong together are easy to remember."
          type="password"
          autoComplete="new-password"
          value={password}
          onChange={setPassword}
          error={faultAt(using.error, "password")}
          isRequired
        />
        <Button weight="main" type="submit" isDisabled={using.isPending || !password}>
          {seen.purpose === "reset" ? "Set the password" : "Come in"}
        </Button>
      </form>
    </Frame>
  );
}

export function LinkPage() {
  const query = useQuery(link(TOKEN));
  if (query.data) return <Entering seen={query.data} />;
  if (query.isError) {
    return (
      <Frame office={undefined} title="This link does not work">
        <section>
          <p role="alert">{query.error.message}</p>
          <a href="/desk">Go to signing in</a>
        </section>
      </Frame>
    );
  }
  return null;
}
