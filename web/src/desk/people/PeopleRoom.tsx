/** Everybody of the office, and the teams, as sentences. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Tag } from "../../ui/Arm";
import { Button } from "../../ui/Button";
import { Quiet } from "../../ui/text";
import { people } from "../data";
import { count } from "../document";
import { RoomHead } from "../shell/Office";
import { Empty, Loaded } from "../shell/states";
import { onLastDay, whenAmid } from "../when";
import { InviteSheet } from "./InviteSheet";
import { PersonSheet } from "./PersonSheet";
import { TeamSheet } from "./TeamSheet";

type Person = Schema<"PersonOut">;
type Team = Schema<"TeamOut">;
type Everybody = Schema<"PeopleOut">;

const List = styled.ul`
  border-top: 1px solid var(--line);
  margin-bottom: 30px;
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    align-items: center;
    padding: 9px 4px;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  li > div {
    flex: 1 1 260px;
    min-width: 0;
  }
`;

const Heading = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: baseline;
  padding-bottom: 8px;
  h2 {
    font-size: 18px;
    margin-inline-end: auto;
  }
`;

function State({ person }: { person: Person }) {
  switch (person.state) {
    case "invited":
      return <Tag $as="care">Invited</Tag>;
    case "ended":
      return <Tag $as="shut">Ended</Tag>;
    case "left":
      return <Tag $as="plain">Left</Tag>;
    case "active":
      return person.seen ? <Quiet>Last here: {whenAmid(person.seen)}</Quiet> : null;
  }
}

function Line({ person, teams, onOpen }: { person: Person; teams: string; onOpen: () => void }) {
  return (
    <li>
      <div>
        <b>{person.name}</b> <Quiet>{person.email}</Quiet>
        <br />
        {person.state === "left" ? (
          <Quiet>Their name stays on what they did.</Quiet>
        ) : (
          <>
            {person.role ? `${person.role} of the office` : "Parts in single questionnaires only"}
            {teams ? `, in ${teams}` : ""}
            {person.until ? `, until ${onLastDay(person.until)}` : ""}
            {person.protected ? "" : ", no second factor"}
            {person.note ? <Quiet> — {person.note}</Quiet> : null}
          </>
        )}
      </div>
      <State person={person} />
      <Button onPress={onOpen} aria-label={`Change ${person.name}`}>
        Change
      </Button>
    </li>
  );
}

type Opened = { person: Person } | { team: Team | null } | "invite" | null;

function Inside({ all }: { all: Everybody }) {
  const [opened, setOpened] = useState<Opened>(null);
  const names = new Map(all.people.map(({ id, name }) => [id, name]));
  const teamsOf = (person: Person) =>
    all.teams
      .filter(({ id }) => person.teams.includes(id))
      .map(({ name }) => name)
      .join(" and ");
  const close = () => setOpened(null);
  return (
    <>
      <RoomHead>
        <h1>People</h1>
        <Quiet>
          {count(all.people.filter(({ state }) => state !== "left").length, "account")},{" "}
          {count(all.teams.length, "team")}
        </Quiet>
        <Button weight="main" onPress={() => setOpened("invite")}>
          Invite somebody
        </Button>
      </RoomHead>
      <List aria-label="People">
        {all.people.map((person) => (
          <Line
            key={person.id}
            person={person}
            teams={teamsOf(person)}
            onOpen={() => setOpened({ person })}
          />
        ))}
      </List>
      <Heading>
        <h2>Teams</h2>
        <Button onPress={() => setOpened({ team: null })}>New team</Button>
      </Heading>
      {all.teams.length ? (
        <List aria-label="Teams">
          {all.teams.map((team) => (
            <li key={team.id}>
              <div>
                <b>{team.name}</b> <Quiet>{team.address}</Quiet>
                <br />
                {team.members.map((id) => names.get(id)).join(", ") || "Nobody yet"}
              </div>
              <Button onPress={() => setOpened({ team })} aria-label={`Change ${team.name}`}>
                Change
              </Button>
            </li>
          ))}
        </List>
      ) : (
        <Empty title="No teams yet">
          <p>A team is given a part once for everybody in it, and has an address for notices.</p>
        </Empty>
      )}
      {opened === "invite" ? <InviteSheet onClose={close} /> : null}
      {opened && opened !== "invite" && "person" in opened ? (
        <PersonSheet person={opened.person} others={all.people} onClose={close} />
      ) : null}
      {opened && opened !== "invite" && "team" in opened ? (
        <TeamSheet team={opened.team} people={all.people} onClose={close} />
      ) : null}
    </>
  );
}

export function PeopleRoom() {
  const query = useQuery(people);
  return (
    <Loaded query={query} stands="room">
      {(all) => <Inside all={all} />}
    </Loaded>
  );
}
