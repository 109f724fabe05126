/** One identity provider: how it is reached, whether that works, and what it fills in. */
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { addProvider, lookAtProvider, providerSetup, putProvider, removeProvider } from "./data";
import { Mappings, type Mapping } from "./Mappings";

type Kept = Schema<"ProviderOut">;
type Examined = Schema<"ExaminedOut">;

const Form = styled.form`
  display: grid;
  gap: 14px;
  border-top: 1px solid var(--line-2);
  padding-top: 14px;
`;

const STEPS: Record<Examined["steps"][number]["step"], string> = {
  reached: "Reached",
  clock: "Clock",
  issuer: "Name",
  flow: "What it offers",
  keys: "Keys",
  client: "Client",
};

function Found({ steps }: { steps: Examined["steps"] }) {
  return (
    <Lines role="status" aria-label="What was found">
      {steps.map(({ step, good, message }) => (
        <li key={step} data-good={good || undefined}>
          <b>
            {good ? "✓" : "✗"} {STEPS[step]}
          </b>{" "}
          {message}
        </li>
      ))}
    </Lines>
  );
}

interface FormProps {
  kept: Kept | null;
  onDone: () => void;
}

const FIELDS = ["name", "issuer", "client_id", "scopes"];

export function ProviderForm({ kept, onDone }: FormProps) {
  const start = kept?.provider;
  const [name, setName] = useState(start?.name ?? "");
  const [issuer, setIssuer] = useState(start?.issuer ?? "");
  const [clientId, setClientId] = useState(start?.client_id ?? "");
  const [secret, setSecret] = useState("");
  const [scopes, setScopes] = useState((start?.scopes ?? ["profile", "email"]).join(" "));
  const [mappings, setMappings] = useState<Mapping[]>(start?.mappings ?? []);
  const body = () => ({
    provider: {
      name,
      issuer,
      client_id: clientId,
      scopes: scopes.split(/\s+/).filter(Boolean),
      mappings,
    },
    secret,
  });
  const saving = useDoing(
    async () => {
      if (kept) await putProvider(kept.id, { ...body(), revision: kept.revision });
      else await addProvider(body());
    },
    [providerSetup.queryKey],
    onDone,
  );
  const looking = useDoing(() => lookAtProvider({ ...body(), id: kept?.id ?? null }));
  const removing = useDoing(() => removeProvider(kept?.id ?? ""), [providerSetup.queryKey], onDone);
  const error = saving.error ?? looking.error ?? removing.error;
  const at = (field: string) => faultAt(error, `provider/${field}`) ?? faultAt(error, field);
  const shown = [
    ...FIELDS.map((field) => `provider/${field}`),
    "secret",
    ...mappings.flatMap((_, n) => [`mappings/${n}`, `provider/mappings/${n}/claim`]),
  ];
  const failed = otherFault(error, shown);
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      <h2>{kept ? kept.provider.name : "New provider"}</h2>
      <Field
        label="Name"
        value={name}
        maxLength={80}
        help="As visitors know it: they press “Sign in with …”."
        error={at("name")}
        onChange={setName}
      />
      <Field
        label="Address of the provider (issuer)"
        value={issuer}
        maxLength={500}
        placeholder="https://id.example.org"
        error={at("issuer")}
        onChange={setIssuer}
      />
      <Field
        label="Client id"
        value={clientId}
        maxLength={200}
        error={at("client_id")}
        onChange={setClientId}
      />
      <Field
        label="Client secret"
        type="password"
        autoComplete="off"
        value={secret}
        maxLength={1000}
        help={kept ? "Left empty, the one that is kept stays. It is never shown." : undefined}
        error={at("secret")}
        onChange={setSecret}
      />
      <Field
        label="Scopes"
        value={scopes}
        help="What is asked for beside openid, with spaces between them."
        error={at("scopes")}
        onChange={setScopes}
      />
      <div>
        <Button onPress={() => looking.mutate()} isDisabled={looking.isPending}>
          {looking.isPending ? "Testing" : "Test it"}
        </Button>
      </div>
      {looking.data ? <Found steps={looking.data.steps} /> : null}
      <Mappings
        mappings={mappings}
        claims={looking.data?.claims ?? []}
        errorAt={(n) =>
          faultAt(error, `mappings/${n}`) ?? faultAt(error, `provider/mappings/${n}/claim`)
        }
        onChange={setMappings}
      />
      {failed ? <Strip tone="wrong">{failed}</Strip> : null}
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" type="submit" isDisabled={saving.isPending}>
          Save
        </Button>
        <Button onPress={onDone}>Cancel</Button>
        {kept ? (
          <Button weight="word" onPress={() => removing.mutate()}>
            Delete this provider
          </Button>
        ) : null}
      </Actions>
    </Form>
  );
}
