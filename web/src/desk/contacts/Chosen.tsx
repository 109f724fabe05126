/** What can be done with the contacts that are chosen. */
import { useState } from "react";

import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { count } from "../document";
import { useDoing } from "../useDoing";
import {
  changeMembers,
  CONTACTS,
  LISTS,
  removeContacts,
  type Contact,
  type ContactField,
  type ContactList,
} from "./data";
import { MergeSheet } from "./MergeSheet";

interface ChosenProps {
  contacts: readonly Contact[];
  fields: readonly ContactField[];
  lists: readonly ContactList[];
  list: ContactList | undefined;
  onDone: () => void;
}

function Removing({
  ids,
  onClose,
  onDone,
}: {
  ids: string[];
  onClose: () => void;
  onDone: () => void;
}) {
  const removing = useDoing(() => removeContacts(ids), [CONTACTS, LISTS], onDone);
  return (
    <Sheet title={`Delete ${count(ids.length, "contact")}?`} open onClose={onClose}>
      <p>
        Their passes are revoked, and it cannot be undone. Entries that they sent stay. Who opted
        out stays marked: brought in again, they will not be written to either.
      </p>
      {removing.error ? <Strip tone="wrong">{removing.error.message}</Strip> : null}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" onPress={() => removing.mutate()}>
          Delete
        </Button>
      </Actions>
    </Sheet>
  );
}

export function Chosen({ contacts, fields, lists, list, onDone }: ChosenProps) {
  const ids = contacts.map(({ id }) => id);
  const [sheet, setSheet] = useState<"" | "remove" | "merge">("");
  const [to, setTo] = useState("");
  const changing = useDoing(
    ({ id, on }: { id: string; on: boolean }) => changeMembers(id, ids, on),
    [CONTACTS, LISTS],
    onDone,
  );
  const close = () => setSheet("");
  const others = lists.filter(({ id }) => id !== list?.id);
  const [one, other] = contacts;
  return (
    <Strip tone="calm">
      <span>{count(ids.length, "contact")} chosen</span>
      <Actions>
        {others.length ? (
          <>
            <Choose
              name="List to put them on"
              value={to}
              options={[
                { code: "", label: "Put on a list" },
                ...others.map(({ id, name }) => ({ code: id, label: name })),
              ]}
              onChange={(id) => {
                setTo(id);
                if (id) changing.mutate({ id, on: true });
              }}
            />
          </>
        ) : null}
        {list ? (
          <Button onPress={() => changing.mutate({ id: list.id, on: false })}>
            Take off {list.name}
          </Button>
        ) : null}
        {contacts.length === 2 ? (
          <Button onPress={() => setSheet("merge")}>Make them one</Button>
        ) : null}
        <Button onPress={() => setSheet("remove")}>Delete</Button>
      </Actions>
      {changing.error ? <span role="alert">{changing.error.message}</span> : null}
      {sheet === "remove" ? <Removing ids={ids} onClose={close} onDone={onDone} /> : null}
      {sheet === "merge" && one && other ? (
        <MergeSheet one={one} other={other} fields={fields} onClose={close} onDone={onDone} />
      ) : null}
    </Strip>
  );
}
