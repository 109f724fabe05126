/** Inviting somebody: who, as what, until when, and words for the letter. */
import { useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { people } from "../data";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { endOf } from "../when";
import { RoleFields, SHOWN, type RoleSettings } from "./RoleFields";
import { asRole } from "./roles";

export function InviteSheet({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [says, setSays] = useState("");
  const [settings, setSettings] = useState<RoleSettings>({ role: "none", until: "", note: "" });
  const inviting = useDoing(
    () =>
      got(
        client.POST("/api/people", {
          body: {
            name,
            email,
            says,
            note: settings.note,
            role: asRole(settings.role),
            until: endOf(settings.until),
          },
        }),
      ),
    [people.queryKey],
    onClose,
  );
  const other = otherFault(inviting.error, SHOWN);
  return (
    <Sheet title="Invite somebody" open onClose={onClose}>
      <form
        noValidate
        style={{ display: "grid", gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault();
          inviting.mutate();
        }}
      >
        {other ? <Strip tone="wrong">{other}</Strip> : null}
        <Field
          label="Name"
          value={name}
          error={faultAt(inviting.error, "name")}
          onChange={setName}
          autoFocus
          isRequired
        />
        <Field
          label="Email"
          help="A letter goes there, with a link that works once, for two weeks."
          type="email"
          value={email}
          error={faultAt(inviting.error, "email")}
          onChange={setEmail}
          isRequired
        />
        <RoleFields value={settings} error={inviting.error} onChange={setSettings} />
        <Field label="Words for the letter" lines={3} value={says} onChange={setSays} />
        <Actions>
          <Button onPress={onClose}>Cancel</Button>
          <Button
            weight="main"
            type="submit"
            isDisabled={!name.trim() || !email.trim() || inviting.isPending}
          >
            Send the invitation
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}
