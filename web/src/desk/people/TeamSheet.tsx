/** A team: its name, its address for notices, who is in it. */
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choices } from "../../ui/Choices";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { people as peopleQuery } from "../data";
import { faultAt, otherFault, useDoing } from "../useDoing";

interface TeamSheetProps {
  /** The team, null for a new one. */
  team: Schema<"TeamOut"> | null;
  people: readonly Schema<"PersonOut">[];
  onClose: () => void;
}

const at = (id: string) => ({ params: { path: { id } } });

const SHOWN = ["name", "address"];

export function TeamSheet({ team, people, onClose }: TeamSheetProps) {
  const [name, setName] = useState(team?.name ?? "");
  const [address, setAddress] = useState(team?.address ?? "");
  const [members, setMembers] = useState<string[]>(team?.members ?? []);
  const body = { name, address, members };
  const saving = useDoing(
    () =>
      team
        ? got(client.PUT("/api/teams/{id}", { ...at(team.id), body }))
        : got(client.POST("/api/teams", { body })),
    [peopleQuery.queryKey],
    onClose,
  );
  const removing = useDoing(
    () => got(client.DELETE("/api/teams/{id}", at(team?.id ?? ""))),
    [peopleQuery.queryKey],
    onClose,
  );
  const other = otherFault(saving.error ?? removing.error, SHOWN);
  return (
    <Sheet title={team ? team.name : "New team"} open onClose={onClose}>
      <form
        noValidate
        style={{ display: "grid", gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        {other ? <Strip tone="wrong">{other}</Strip> : null}
        <Field
          label="Name"
          value={name}
          error={faultAt(saving.error, "name")}
          onChange={setName}
          autoFocus
          isRequired
        />
        <Field
          label="Email for notices"
          type="email"
          value={address}
          error={faultAt(saving.error, "address")}
          onChange={setAddress}
        />
        <Choices
          label="Who is in it"
          options={people
            .filter(({ state, id }) => state !== "left" || members.includes(id))
            .map((person) => ({ code: person.id, label: person.name }))}
          value={members}
          onChange={setMembers}
        />
        <Actions>
          {team ? (
            <Button weight="word" onPress={() => removing.mutate()}>
              Remove the team
            </Button>
          ) : null}
          <Button onPress={onClose}>Cancel</Button>
          <Button weight="main" type="submit" isDisabled={!name.trim() || saving.isPending}>
            Save
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}
