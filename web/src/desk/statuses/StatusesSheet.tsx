/** The statuses that entries of a questionnaire can have: named, put in order, with their rules. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { movedTo } from "../../items/movedTo";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { everyStatus, FIRST, handling, saveStatuses, type Status } from "../handling";
import { keyFrom } from "../keys";
import { useDoing } from "../useDoing";
import { OneStatus, type Handling, type Written } from "./OneStatus";
import { KeepingPart } from "./Keeping";
import { StatusMark } from "./StatusMark";

const Lines = styled.ol`
  border-top: 1px solid var(--line);
  > li {
    border-bottom: 1px solid var(--line);
  }
`;

const Head = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 4px 8px;
  align-items: center;
  padding: 4px 0;
`;

const Says = styled.button`
  border: 0;
  background: none;
  text-align: start;
  cursor: pointer;
  min-height: 30px;
  padding: 0;
  font-weight: 600;
`;

const NewLine = styled.div`
  display: flex;
  gap: 8px;
  align-items: end;
  > :first-child {
    flex: 1;
  }
`;

interface EditProps {
  id: string;
  saved: Schema<"HandlingOut">;
  changed: readonly (readonly unknown[])[];
  onClose: () => void;
}

const added = (whole: Handling, name: string): Handling => {
  const taken = new Set([FIRST, ...(whole.statuses ?? []).map(({ key }) => key)]);
  return {
    ...whole,
    statuses: [...(whole.statuses ?? []), { key: keyFrom(name, taken, "status"), name }],
  };
};

/** Without a status, which then follows none any more. */
function without(whole: Handling, key: string): Handling {
  const left = <T extends { next?: string[] | null }>(one: T): T =>
    one.next ? { ...one, next: one.next.filter((other) => other !== key) } : one;
  return {
    ...whole,
    first: left(whole.first ?? {}),
    statuses: (whole.statuses ?? []).filter((one) => one.key !== key).map(left),
  };
}

function changedAt(whole: Handling, key: string, change: Written): Handling {
  if (key === FIRST) return { ...whole, first: { ...whole.first, ...change } };
  const statuses = (whole.statuses ?? []).map((one) =>
    one.key === key ? { ...one, ...change } : one,
  );
  return { ...whole, statuses };
}

function moved(whole: Handling, at: number, by: number): Handling {
  return { ...whole, statuses: movedTo(whole.statuses ?? [], at, at + by) };
}

function aboutIt({ key, final, days }: Status): string {
  const said = [
    key === FIRST ? "as entries arrive" : "",
    final ? "ends the work" : "",
    days ? `late after ${days} ${days === 1 ? "day" : "days"}` : "",
  ].filter(Boolean);
  return said.length ? ` ${said.join(", ")}` : "";
}

function Edit({ id, saved, changed, onClose }: EditProps) {
  const [whole, setWhole] = useState<Handling>(saved.handling);
  const [open, setOpen] = useState<string | null>(null);
  const [name, setName] = useState("");
  const wanted = name.trim() ? added(whole, name.trim()) : whole;
  const saving = useDoing(
    () => saveStatuses(id, { revision: saved.revision, handling: wanted }),
    [["handling", id], ["entries", id], ...changed],
    onClose,
  );
  const written = new Map<string, Written>([
    [FIRST, whole.first ?? {}],
    ...(whole.statuses ?? []).map((one) => [one.key, one] as const),
  ]);
  const last = whole.statuses?.length ?? 0;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      <p>
        Where an entry stands in the work of the office. What happens once one is reached (a letter,
        a call, a row) is said in{" "}
        <Link to="/q/$id/dispatch" params={{ id }}>
          Dispatch
        </Link>
        ; the Gate says which give the place of an entry back.
      </p>
      <Lines>
        {everyStatus(whole).map((status, at) => {
          const { key } = status;
          const isOpen = open === key;
          return (
            <li key={key}>
              <Head>
                <Says
                  type="button"
                  aria-expanded={isOpen}
                  onClick={() => setOpen(isOpen ? null : key)}
                >
                  <StatusMark status={status} />
                  <Quiet>{aboutIt(status)}</Quiet>
                </Says>
                {key === FIRST ? null : (
                  <>
                    <span>
                      <Button
                        aria-label={`Move ${status.name} up`}
                        isDisabled={at === 1}
                        onPress={() => setWhole(moved(whole, at - 1, -1))}
                      >
                        Up
                      </Button>{" "}
                      <Button
                        aria-label={`Move ${status.name} down`}
                        isDisabled={at === last}
                        onPress={() => setWhole(moved(whole, at - 1, 1))}
                      >
                        Down
                      </Button>
                    </span>
                    <Button
                      aria-label={`Remove ${status.name}`}
                      onPress={() => setWhole(without(whole, key))}
                    >
                      Remove
                    </Button>
                  </>
                )}
              </Head>
              {isOpen ? (
                <OneStatus
                  status={status}
                  written={written.get(key) ?? {}}
                  handling={whole}
                  teams={saved.teams}
                  onChange={(change) => setWhole(changedAt(whole, key, change))}
                />
              ) : null}
            </li>
          );
        })}
      </Lines>
      <NewLine style={{ marginTop: 10 }}>
        <Field
          label="Another status"
          value={name}
          maxLength={60}
          placeholder="such as Scheduled"
          onChange={setName}
        />
        <Button
          isDisabled={!name.trim()}
          onPress={() => {
            setWhole(wanted);
            setOpen(wanted.statuses?.at(-1)?.key ?? null);
            setName("");
          }}
        >
          Add
        </Button>
      </NewLine>
      <KeepingPart
        id={id}
        revision={saved.revision}
        handling={whole}
        onChange={(keeping) => setWhole({ ...whole, keeping })}
      />
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

interface StatusesSheetProps {
  id: string;
  /** What else is out of date once they are saved. */
  changed: readonly (readonly unknown[])[];
}

export function StatusesSheet({ id, changed }: StatusesSheetProps) {
  const [open, setOpen] = useState(false);
  const saved = useQuery(handling(id)).data;
  const close = () => setOpen(false);
  return (
    <>
      <Button weight="word" onPress={() => setOpen(true)}>
        Statuses
      </Button>
      <Sheet
        title="Statuses of entries"
        width="wide"
        open={open && saved !== undefined}
        onClose={close}
      >
        {saved ? <Edit id={id} saved={saved} changed={changed} onClose={close} /> : null}
      </Sheet>
    </>
  );
}
