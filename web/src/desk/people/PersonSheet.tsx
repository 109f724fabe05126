/** One person: role, end, note; help with signing in; leaving. */
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { people } from "../data";
import { otherFault, useDoing } from "../useDoing";
import { endOf, lastDay } from "../when";
import { RoleFields, SHOWN, type RoleSettings } from "./RoleFields";
import { asRole } from "./roles";

type Person = Schema<"PersonOut">;

interface PersonSheetProps {
  person: Person;
  others: readonly Person[];
  onClose: () => void;
}

const at = (id: string) => ({ params: { path: { id } } });

function useDoings({ person, onClose }: Omit<PersonSheetProps, "others">) {
  const changes = [people.queryKey];
  return {
    invite: useDoing(
      () => got(client.POST("/api/people/{id}/invitation", at(person.id))),
      changes,
      onClose,
    ),
    factors: useDoing(
      () => got(client.DELETE("/api/people/{id}/factors", at(person.id))),
      changes,
      onClose,
    ),
    sessions: useDoing(
      () => got(client.DELETE("/api/people/{id}/sessions", at(person.id))),
      changes,
      onClose,
    ),
  };
}

/** What an owner does for somebody who cannot come in, or should not be in. */
function SigningIn({ person, onClose }: Omit<PersonSheetProps, "others">) {
  const { invite, factors, sessions } = useDoings({ person, onClose });
  const error = invite.error ?? factors.error ?? sessions.error;
  return (
    <section style={{ display: "grid", gap: 8 }}>
      <h3>Signing in</h3>
      {error ? <Strip tone="wrong">{error.message}</Strip> : null}
      <Actions style={{ justifyContent: "start" }}>
        {person.state === "invited" ? (
          <Button onPress={() => invite.mutate()}>Send another invitation</Button>
        ) : (
          <Button onPress={() => sessions.mutate()}>Sign out everywhere</Button>
        )}
        {person.protected ? (
          <Button onPress={() => factors.mutate()}>Take away the second factor</Button>
        ) : null}
      </Actions>
      {person.protected ? (
        <Quiet>
          For who lost their phone and their codes: they sign in with their password alone, and set
          up another. They are told by a letter.
        </Quiet>
      ) : null}
    </section>
  );
}

function Leaving({ person, others, onClose }: PersonSheetProps) {
  const [asking, setAsking] = useState(false);
  const [successor, setSuccessor] = useState("nobody");
  const leaving = useDoing(
    () =>
      got(
        client.POST("/api/people/{id}/leave", {
          ...at(person.id),
          body: { successor: successor === "nobody" ? null : successor },
        }),
      ),
    [people.queryKey],
    onClose,
  );
  const open = others.filter(({ id, state }) => id !== person.id && state === "active");
  if (!asking) {
    return (
      <p>
        <Button weight="word" onPress={() => setAsking(true)}>
          {person.name} leaves the office
        </Button>
      </p>
    );
  }
  return (
    <section style={{ display: "grid", gap: 10 }}>
      <h3>{person.name} leaves</h3>
      <p>
        The account is closed, every session and token of theirs ends, their clearance too. Their
        name stays on what they did.
      </p>
      {leaving.error ? <Strip tone="wrong">{leaving.error.message}</Strip> : null}
      <Picker
        label="Their parts in questionnaires and registers go to"
        options={[
          { code: "nobody", label: "nobody" },
          ...open.map(({ id, name }) => ({ code: id, label: name })),
        ]}
        value={successor}
        onChange={setSuccessor}
      />
      <Actions>
        <Button onPress={() => setAsking(false)}>Cancel</Button>
        <Button weight="main" isDisabled={leaving.isPending} onPress={() => leaving.mutate()}>
          Close the account
        </Button>
      </Actions>
    </section>
  );
}

function ComingBack({ person, onClose }: Omit<PersonSheetProps, "others">) {
  const coming = useDoing(
    () => got(client.POST("/api/people/{id}/return", { ...at(person.id), body: { role: null } })),
    [people.queryKey],
    onClose,
  );
  return (
    <>
      <p>This account is closed.</p>
      {coming.error ? <Strip tone="wrong">{coming.error.message}</Strip> : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" isDisabled={coming.isPending} onPress={() => coming.mutate()}>
          Open it again, with a new invitation
        </Button>
      </Actions>
    </>
  );
}

function Settings({ person, onClose }: Omit<PersonSheetProps, "others">) {
  const [settings, setSettings] = useState<RoleSettings>({
    role: person.role ?? "none",
    until: lastDay(person.until),
    note: person.note,
  });
  const same = settings.until === lastDay(person.until);
  const saving = useDoing(
    () =>
      got(
        client.PUT("/api/people/{id}", {
          ...at(person.id),
          body: {
            role: asRole(settings.role),
            note: settings.note,
            until: same ? person.until : endOf(settings.until),
          },
        }),
      ),
    [people.queryKey, ["me"]],
    onClose,
  );
  const other = otherFault(saving.error, SHOWN);
  return (
    <form
      style={{ display: "grid", gap: 14 }}
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      {other ? <Strip tone="wrong">{other}</Strip> : null}
      <RoleFields value={settings} error={saving.error} onChange={setSettings} />
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" type="submit" isDisabled={saving.isPending}>
          Save
        </Button>
      </Actions>
    </form>
  );
}

export function PersonSheet({ person, others, onClose }: PersonSheetProps) {
  const left = person.state === "left";
  return (
    <Sheet title={person.name} open onClose={onClose}>
      <Quiet>{person.email}</Quiet>
      {left ? (
        <ComingBack person={person} onClose={onClose} />
      ) : (
        <>
          <Settings person={person} onClose={onClose} />
          <SigningIn person={person} onClose={onClose} />
          <Leaving person={person} others={others} onClose={onClose} />
        </>
      )}
    </Sheet>
  );
}
