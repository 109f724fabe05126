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
import { Toggle } from "../../ui/Toggle";
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
  const [open, setOpen] = useState(false);
  const changing = useDoing(
    (body: Schema<"HookIn">) =>
      got(client.PUT("/api/questionnaires/{id}/hooks/{hook_id}", { ...at, body })),
    changes,
    () => setOpen(false),
  );
  const renewing = useDoing(() =>
    got(client.POST("/api/questionnaires/{id}/hooks/{hook_id}/secret", at)),
  );
  const removing = useDoing(
    () => got(client.DELETE("/api/questionnaires/{id}/hooks/{hook_id}", at)),
    changes,
  );
  const wrong = renewing.error ?? removing.error;
  if (open) {
    return (
      <Row>
        <Written
          start={hook}
          error={changing.error}
          isPending={changing.isPending}
          say="Save"
          onSave={({ name, address, cleared = false }) =>
            changing.mutate({ name, address, cleared })
          }
          onCancel={() => setOpen(false)}
        />
      </Row>
    );
  }
  return (
    <Row>
      <b>{hook.name}</b>
      <Mono>{hook.address}</Mono>
      {hook.cleared ? <Quiet>Is told restricted answers too.</Quiet> : null}
      {renewing.data ? (
        <>
          <Shown secret={renewing.data.secret} />
          <Quiet>The one before is good for a day more.</Quiet>
        </>
      ) : null}
      {wrong ? <Strip tone="wrong">{wrong.message}</Strip> : null}
      <Line>
        <Button weight="word" aria-label={`Change ${hook.name}`} onPress={() => setOpen(true)}>
          Change
        </Button>
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

interface WrittenProps {
  start: Schema<"HookIn">;
  error: Error | null;
  isPending: boolean;
  /** What the button says. */
  say: string;
  onSave: (hook: Schema<"HookIn">) => void;
  onCancel?: () => void;
}

/** A system as it is written down, new or there already. */
function Written({ start, error, isPending, say, onSave, onCancel }: WrittenProps) {
  const [hook, setHook] = useState(start);
  const other = otherFault(error, FIELDS);
  const ready = hook.name.trim() && hook.address.trim();
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) onSave(hook);
      }}
    >
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      <Field
        label="Name of the system"
        value={hook.name}
        onChange={(name) => setHook({ ...hook, name })}
        error={faultAt(error, "name")}
        maxLength={80}
      />
      <Field
        label="Address that is called"
        help="It begins with https://"
        value={hook.address}
        onChange={(address) => setHook({ ...hook, address })}
        error={faultAt(error, "address")}
        maxLength={2000}
      />
      <Toggle
        isSelected={hook.cleared ?? false}
        onChange={(cleared) => setHook({ ...hook, cleared })}
      >
        It is told restricted answers too
      </Toggle>
      <Actions>
        {onCancel ? <Button onPress={onCancel}>Cancel</Button> : null}
        <Button weight="main" type="submit" isDisabled={!ready || isPending}>
          {say}
        </Button>
      </Actions>
    </Form>
  );
}

const EMPTY: Schema<"HookIn"> = { name: "", address: "", cleared: false };

function Adding({ id }: { id: string }) {
  const [made, setMade] = useState(0);
  const adding = useDoing(
    (body: Schema<"HookIn">) =>
      got(client.POST("/api/questionnaires/{id}/hooks", { ...path(id), body })),
    [hooksOf(id).queryKey],
    () => setMade(made + 1),
  );
  return (
    <>
      {adding.data ? <Shown secret={adding.data.secret} /> : null}
      <Written
        key={made}
        start={EMPTY}
        error={adding.error}
        isPending={adding.isPending}
        say="Add"
        onSave={adding.mutate}
      />
    </>
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
          an entry. What is restricted goes only to systems that are told it, which somebody with
          clearance decides.
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
