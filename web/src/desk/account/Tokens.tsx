/** Tokens that let scripts work under one's account. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Choices } from "../../ui/Choices";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { Mono, Quiet } from "../../ui/text";
import { ownTokens } from "../data";
import { Confirm } from "../entering/Confirm";
import { Loaded } from "../shell/states";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { endOf, lastDay, onLastDay, whenAmid } from "../when";

type Scope = Schema<"TokenOut">["scopes"][number];

const SCOPES: readonly { code: Scope; label: string }[] = [
  { code: "read_questionnaires", label: "Read questionnaires" },
  { code: "write_questionnaires", label: "Change questionnaires" },
  { code: "read_entries", label: "Read entries" },
  { code: "read_registers", label: "Read registers" },
  { code: "write_registers", label: "Change registers" },
];

const wordsOf = (scopes: readonly Scope[]) =>
  SCOPES.filter(({ code }) => scopes.includes(code))
    .map(({ label }) => label.toLowerCase())
    .join(", ");

const MONTH = 30 * 86_400_000;

function NewToken({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [scopes, setScopes] = useState<string[]>([]);
  const [cleared, setCleared] = useState(false);
  const [until, setUntil] = useState(() => lastDay(new Date(Date.now() + MONTH).toISOString()));
  const making = useDoing(
    () =>
      got(
        client.POST("/api/account/tokens", {
          body: { name, scopes: scopes as Scope[], cleared, expires: endOf(until) ?? "" },
        }),
      ),
    [ownTokens.queryKey],
  );
  const other = otherFault(making.error, ["expires", "scopes", "name"]);
  if (making.data) {
    return (
      <Sheet title="The token" open onClose={onClose}>
        <p>Copy it now: it is not shown again. Send it as “Authorization: Bearer …”.</p>
        <p style={{ overflowWrap: "anywhere" }}>
          <Mono>{making.data.secret}</Mono>
        </p>
        <Actions>
          <Button onPress={() => void navigator.clipboard.writeText(making.data.secret)}>
            Copy
          </Button>
          <Button weight="main" onPress={onClose}>
            I have kept it
          </Button>
        </Actions>
      </Sheet>
    );
  }
  return (
    <Sheet title="New token" open onClose={onClose}>
      {other ? <Confirm error={making.error} onConfirmed={() => making.reset()} /> : null}
      <form
        style={{ display: "grid", gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault();
          making.mutate();
        }}
      >
        <Field label="What is it for?" value={name} onChange={setName} autoFocus isRequired />
        <Choices
          label="It may"
          help="Never more than you may yourself."
          options={SCOPES}
          value={scopes}
          error={faultAt(making.error, "scopes")}
          onChange={setScopes}
        />
        <Toggle isSelected={cleared} onChange={setCleared}>
          It may read restricted answers that you have clearance for
        </Toggle>
        <Field
          label="Last day"
          type="date"
          narrow
          value={until}
          error={faultAt(making.error, "expires")}
          onChange={setUntil}
          isRequired
        />
        <Actions>
          <Button onPress={onClose}>Cancel</Button>
          <Button
            weight="main"
            type="submit"
            isDisabled={!name.trim() || !until || making.isPending}
          >
            Make the token
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}

export function Tokens() {
  const query = useQuery(ownTokens);
  const [open, setOpen] = useState(false);
  const ending = useDoing(
    (id: string) => got(client.DELETE("/api/account/tokens/{id}", { params: { path: { id } } })),
    [ownTokens.queryKey],
  );
  return (
    <section aria-label="Tokens for scripts">
      <h2>Tokens for scripts</h2>
      <Quiet>
        A script with a token works under your account.{" "}
        <a href="/api/openapi.json">What it can ask for</a> is described as OpenAPI.
      </Quiet>
      {ending.error ? <Strip tone="wrong">{ending.error.message}</Strip> : null}
      <Loaded query={query}>
        {(tokens) =>
          tokens.length ? (
            <Lines aria-label="Tokens">
              {tokens.map((token) => (
                <li key={token.id}>
                  <b>{token.name}</b>
                  <span>
                    {wordsOf(token.scopes)}
                    {token.cleared ? ", restricted answers too" : ""}
                  </span>
                  <Quiet>
                    {new Date(token.expires) <= new Date() ? "ended" : "until"}{" "}
                    {onLastDay(token.expires)},{" "}
                    {token.used ? `used ${whenAmid(token.used)}` : "not used yet"}
                  </Quiet>
                  <Button
                    weight="word"
                    aria-label={`End ${token.name}`}
                    onPress={() => ending.mutate(token.id)}
                  >
                    End
                  </Button>
                </li>
              ))}
            </Lines>
          ) : null
        }
      </Loaded>
      <Button onPress={() => setOpen(true)}>New token</Button>
      {open ? <NewToken onClose={() => setOpen(false)} /> : null}
    </section>
  );
}
