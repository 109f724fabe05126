/** Other systems that rules may call: their addresses, and the secrets that calls are signed with. */
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Mono, Quiet } from "../../ui/text";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { Line } from "./kit";

type Hook = Schema<"HookOut">;

const path = (id: string) => ({ params: { path: { id } } });

export const hooksOf = (id: string) =>
  queryOptions({
    queryKey: ["hooks", id],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/hooks", path(id))),
  });

const Row = styled.li`
  border-top: 1px solid var(--line);
  padding: 8px 0;
  display: grid;
  gap: 4px;
  overflow-wrap: anywhere;
`;

const Secret = styled.code`
  font: 12.5px var(--mono);
  overflow-wrap: anywhere;
  user-select: all;
`;

const Form = styled.form`
  display: grid;
  gap: 10px;
`;

function Shown({ secret }: { secret: string }) {
  return (
    <Strip tone="calm">
      <span>
        Its secret, shown this once: <Secret>{secret}</Secret>
      </span>
    </Strip>
  );
}

function OneHook({ id, hook }: { id: string; hook: Hook }) {
  const at = { params: { path: { id, hook_id: hook.id } } };
  const changes = [hooksOf(id).queryKey];
  const renewing = useDoing(() =>
    got(client.POST("/api/questionnaires/{id}/hooks/{hook_id}/secret", at)),
  );
  const removing = useDoing(
    () => got(client.DELETE("/api/questionnaires/{id}/hooks/{hook_id}", at)),
    changes,
  );
  const wrong = renewing.error ?? removing.error;
  return (
    <Row>
      <b>{hook.name}</b>
      <Mono>{hook.address}</Mono>
      {renewing.data ? (
        <>
          <Shown secret={renewing.data.secret} />
          <Quiet>The one before is good for a day more.</Quiet>
        </>
      ) : null}
      {wrong ? <Strip tone="wrong">{wrong.message}</Strip> : null}
      <Line>
        <Button
          weight="word"
          aria-label={`New secret for ${hook.name}`}
          isDisabled={renewing.isPending}
          onPress={() => renewing.mutate()}
        >
          New secret
        </Button>
        <Button
          weight="word"
          aria-label={`Remove ${hook.name}`}
          isDisabled={removing.isPending}
          onPress={() => removing.mutate()}
        >
          Remove
        </Button>
      </Line>
    </Row>
  );
}

const FIELDS = ["name", "address"];

function Adding({ id }: { id: string }) {
  const [name, setName] = useState("");
  const [address, setAddress] = useState("");
  const adding = useDoing(
    () =>
      got(client.POST("/api/questionnaires/{id}/hooks", { ...path(id), body: { name, address } })),
    [hooksOf(id).queryKey],
    () => {
      setName("");
      setAddress("");
    },
  );
  const other = otherFault(adding.error, FIELDS);
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() && address.trim()) adding.mutate();
      }}
    >
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      {adding.data ? <Shown secret={adding.data.secret} /> : null}
      <Field
        label="Name of the system"
        value={name}
        onChange={setName}
        error={faultAt(adding.error, "name")}
        maxLength={80}
      />
      <Field
        label="Address that is called"
        help="It begins with https://"
        value={address}
        onChange={setAddress}
        error={faultAt(adding.error, "address")}
        maxLength={2000}
      />
      <Actions>
        <Button
          weight="main"
          type="submit"
          isDisabled={!name.trim() || !address.trim() || adding.isPending}
        >
          Add
        </Button>
      </Actions>
    </Form>
  );
}

export function Hooks({ id }: { id: string }) {
  const [open, setOpen] = useState(false);
  const found = useQuery(hooksOf(id)).data ?? [];
  return (
    <>
      <Button weight="word" onPress={() => setOpen(true)}>
        Other systems that are called
      </Button>
      <Sheet title="Other systems that are called" open={open} onClose={() => setOpen(false)}>
        <Quiet>
          Calls are signed as the Standard Webhooks specification says. They carry what is open of
          an entry, and nothing restricted.
        </Quiet>
        <ul>
          {found.map((hook) => (
            <OneHook key={hook.id} id={id} hook={hook} />
          ))}
        </ul>
        <Adding id={id} />
      </Sheet>
    </>
  );
}
