/** The statuses that entries of a questionnaire can have: named, put in order, taken out. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { keyFrom, keysOf } from "../keys";
import { useDoing } from "../useDoing";
import { handling, saveStatuses, type Status } from "../handling";
import { entryColumns } from "./data";

const Lines = styled.ol`
  display: grid;
  gap: 8px;
  margin-top: 12px;
  li {
    display: flex;
    gap: 8px;
    align-items: end;
  }
  li > :first-child {
    flex: 1;
  }
`;

interface EditProps {
  id: string;
  revision: number;
  before: readonly Status[];
  onClose: () => void;
}

function Edit({ id, revision, before, onClose }: EditProps) {
  const [statuses, setStatuses] = useState(before);
  const [added, setAdded] = useState("");
  const name = added.trim();
  const whole = name
    ? [...statuses, { key: keyFrom(name, keysOf([...before, ...statuses]), "status"), name }]
    : statuses;
  const saving = useDoing(
    () => saveStatuses(id, { revision, handling: { statuses: [...whole] } }),
    [["handling", id], entryColumns(id).queryKey],
    onClose,
  );
  const put = (at: number, name: string) =>
    setStatuses(statuses.map((one, n) => (n === at ? { ...one, name } : one)));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      <p>
        An entry that arrives has none yet. The Gate says which of them free the place that an entry
        takes.
      </p>
      <Lines>
        {statuses.map((one, at) => (
          <li key={one.key}>
            <Field
              label={`Status ${at + 1}`}
              value={one.name}
              maxLength={60}
              onChange={(name) => put(at, name)}
            />
            <Button
              aria-label={`Move ${one.name} up`}
              isDisabled={at === 0}
              onPress={() => {
                const next = [...statuses];
                next.splice(at - 1, 0, ...next.splice(at, 1));
                setStatuses(next);
              }}
            >
              Up
            </Button>
            <Button
              aria-label={`Remove ${one.name}`}
              onPress={() => setStatuses(statuses.filter((_, n) => n !== at))}
            >
              Remove
            </Button>
          </li>
        ))}
        <li>
          <Field
            label="Another status"
            value={added}
            maxLength={60}
            placeholder="such as Scheduled"
            onChange={setAdded}
          />
          <Button
            isDisabled={!name}
            onPress={() => {
              setStatuses(whole);
              setAdded("");
            }}
          >
            Add
          </Button>
        </li>
      </Lines>
      {saving.error ? <Strip tone="wrong">{saving.error.message}</Strip> : null}
      <Actions style={{ marginTop: 14 }}>
        <Button onPress={onClose}>Cancel</Button>
        <Button weight="main" type="submit" isDisabled={saving.isPending}>
          Save the statuses
        </Button>
      </Actions>
    </form>
  );
}

export function Statuses({ id }: { id: string }) {
  const [open, setOpen] = useState(false);
  const saved = useQuery(handling(id)).data;
  const close = () => setOpen(false);
  return (
    <>
      <Button weight="word" onPress={() => setOpen(true)}>
        Statuses
      </Button>
      <Sheet title="Statuses of entries" open={open && saved !== undefined} onClose={close}>
        {saved ? (
          <Edit
            id={id}
            revision={saved.revision}
            before={saved.handling.statuses ?? []}
            onClose={close}
          />
        ) : null}
      </Sheet>
    </>
  );
}
