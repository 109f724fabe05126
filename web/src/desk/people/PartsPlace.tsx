/** Who works on a questionnaire or a register, as sentences whose words can be changed. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Picker } from "../../ui/Picker";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { parts, type Thing } from "../data";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { Clearances } from "./Clearances";
import { IN_QUESTIONNAIRE, IN_REGISTER, ROLES, type Role } from "./roles";

type Shared = Schema<"SharedOut">;
type Part = Schema<"PartOut">;

const Room = styled.div`
  padding: 22px clamp(12px, 2.4vw, 30px) 40px;
  max-width: 980px;
  display: grid;
  gap: 28px;
  h2 {
    font-size: 19px;
  }
  ul {
    margin-top: 10px;
  }
`;

interface RoomProps {
  thing: Thing;
  id: string;
  shared: Shared;
}

const at = (id: string) => ({ params: { path: { id } } });

function useParts(thing: Thing, id: string) {
  const changes = [parts(thing, id).queryKey];
  const give = useDoing(
    (body: Schema<"PartIn">) =>
      thing === "questionnaires"
        ? got(client.POST("/api/questionnaires/{id}/parts", { ...at(id), body }))
        : got(client.POST("/api/registers/{id}/parts", { ...at(id), body })),
    changes,
  );
  const take = useDoing((part_id: string) => {
    const params = { params: { path: { id, part_id } } };
    return thing === "questionnaires"
      ? got(client.DELETE("/api/questionnaires/{id}/parts/{part_id}", params))
      : got(client.DELETE("/api/registers/{id}/parts/{part_id}", params));
  }, changes);
  return { give, take, error: give.error ?? take.error };
}

const rolesOf = (thing: Thing) =>
  ROLES.map((code) => ({
    code: code,
    label: code,
    detail: (thing === "questionnaires" ? IN_QUESTIONNAIRE : IN_REGISTER)[code],
  }));

/** Those who can be given a part: by id, with a mark that tells people from teams. */
function candidates({ people, teams, parts: given }: Shared) {
  const has = new Set(given.map((part) => part.account_id ?? part.team_id));
  return [
    ...people
      .filter(({ id, state }) => !has.has(id) && state !== "ended")
      .map(({ id, name, role }) => ({
        code: `account_id ${id}`,
        label: name,
        detail: role ? `${role} of the office already` : undefined,
        group: "People",
      })),
    ...teams
      .filter(({ id }) => !has.has(id))
      .map(({ id, name }) => ({ code: `team_id ${id}`, label: name, group: "Teams" })),
  ];
}

function Adding({ thing, shared, onGive }: Omit<RoomProps, "id"> & { onGive: Give }) {
  const [whom, setWhom] = useState<string | null>(null);
  const [role, setRole] = useState<Role>("reader");
  const options = candidates(shared);
  const [kind, id] = whom?.split(" ") ?? [];
  return (
    <li>
      <Picker
        label="Who"
        inline
        placeholder="somebody, or a team"
        options={options}
        value={whom}
        onChange={setWhom}
      />
      becomes
      <Picker
        label="As what"
        inline
        options={rolesOf(thing)}
        value={role}
        onChange={(code) => setRole(code as Role)}
      />
      <Button
        isDisabled={!whom}
        onPress={() => {
          if (kind && id) onGive({ role, [kind]: id });
          setWhom(null);
        }}
      >
        Add
      </Button>
    </li>
  );
}

type Give = (part: Schema<"PartIn">) => void;

function Parts({ thing, id, shared }: RoomProps) {
  const { give, take, error } = useParts(thing, id);
  const people = new Map(shared.people.map((person) => [person.id, person.name]));
  const teams = new Map(shared.teams.map((team) => [team.id, team.name]));
  const nameOf = (part: Part) =>
    part.account_id ? (people.get(part.account_id) ?? "") : (teams.get(part.team_id ?? "") ?? "");
  const details = thing === "questionnaires" ? IN_QUESTIONNAIRE : IN_REGISTER;
  return (
    <section aria-label="Parts">
      <h2>Who works on it</h2>
      <Quiet>
        {thing === "questionnaires"
          ? "Who has no part in a questionnaire does not know that it is there."
          : "Who has no part in a register does not know that it is there."}
      </Quiet>
      {error ? <Strip tone="wrong">{error.message}</Strip> : null}
      <Lines>
        {shared.people
          .filter(({ role }) => role)
          .map((person) => (
            <li key={person.id}>
              <b>{person.name}</b> is {person.role} of the whole office
            </li>
          ))}
        {shared.parts.map((part) => (
          <li key={part.id}>
            <b>{nameOf(part)}</b> {part.team_id ? <Quiet>(team)</Quiet> : null} is
            <Picker
              label={`Role of ${nameOf(part)}`}
              inline
              options={rolesOf(thing)}
              value={part.role}
              onChange={(role) =>
                give.mutate({
                  role: role as Role,
                  account_id: part.account_id,
                  team_id: part.team_id,
                })
              }
            />
            <Quiet>{details[part.role]}</Quiet>
            <Button
              weight="word"
              aria-label={`Take away the part of ${nameOf(part)}`}
              onPress={() => take.mutate(part.id)}
            >
              Take away
            </Button>
          </li>
        ))}
        <Adding thing={thing} shared={shared} onGive={give.mutate} />
      </Lines>
    </section>
  );
}

export function QuestionnaireParts() {
  const id = usePlaceId();
  const query = useQuery(parts("questionnaires", id));
  return (
    <Loaded query={query}>
      {(shared) => (
        <Room>
          <Parts thing="questionnaires" id={id} shared={shared} />
          <Clearances id={id} shared={shared} />
        </Room>
      )}
    </Loaded>
  );
}

export function RegisterParts() {
  const id = useParams({ from: "/office/registers/$registerId/people" }).registerId;
  const query = useQuery(parts("registers", id));
  return (
    <Loaded query={query} stands="room">
      {(shared) => (
        <Room>
          <h1>People of this register</h1>
          <Parts thing="registers" id={id} shared={shared} />
        </Room>
      )}
    </Loaded>
  );
}
