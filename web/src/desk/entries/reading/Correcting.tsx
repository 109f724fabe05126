/** Correcting an entry through its own edition, and deciding whether dispatch acts on that. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { Actions, Sheet } from "../../../ui/Sheet";
import { Strip } from "../../../ui/Strip";
import { Quiet } from "../../../ui/text";
import { registers } from "../../data";
import { useDoing } from "../../useDoing";

interface CorrectingProps {
  id: string;
  entryId: string;
}

const at = (id: string, entryId: string) => ({ params: { path: { id, entry_id: entryId } } });

export function Correcting({ id, entryId }: CorrectingProps) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState("");
  const beginning = useDoing(
    () =>
      got(
        client.POST("/api/questionnaires/{id}/entries/{entry_id}/corrections", {
          ...at(id, entryId),
          body: { why },
        }),
      ),
    [],
    ({ path }) => window.location.assign(path),
  );
  return (
    <>
      <Button onPress={() => setOpen(true)}>Correct…</Button>
      <Sheet title="Correct this entry" open={open} onClose={() => setOpen(false)}>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            beginning.mutate();
          }}
        >
          <p>
            The questionnaire opens with its answers, under the checks of its edition. What it says
            now is kept, with your name and the reason.
          </p>
          <Field label="Why it is corrected" value={why} maxLength={500} onChange={setWhy} />
          {beginning.error ? <Strip tone="wrong">{beginning.error.message}</Strip> : null}
          <Actions style={{ marginTop: 14 }}>
            <Button onPress={() => setOpen(false)}>Cancel</Button>
            <Button weight="main" type="submit" isDisabled={!why.trim() || beginning.isPending}>
              Open it
            </Button>
          </Actions>
        </form>
      </Sheet>
    </>
  );
}

const Waits = styled.div`
  margin-top: 12px;
  ul {
    margin: 6px 0;
    padding-inline-start: 18px;
    list-style: disc;
  }
`;

type Effect = Schema<"CorrectionOut">["effects"][number];

/** What dispatch would do, in a line. */
function said(effect: Effect, known: readonly Schema<"RegisterOut">[]): string {
  if (effect.kind === "row") {
    const there = known.find(({ id }) => id === effect.register_id);
    const register = there?.name ?? "a register";
    const called = (key: string) => there?.columns.find((one) => one.key === key)?.label ?? key;
    const moved = effect.rows.flatMap(({ before, after }) => {
      const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])];
      return keys.map((key) => `${called(key)}: ${text(before[key])} → ${text(after[key])}`);
    });
    return moved.length ? `${register}: ${moved.join("; ")}` : `${register}: a row is added`;
  }
  if (effect.kind === "notice") return `a letter to ${effect.to}: “${effect.subject}”`;
  if (effect.kind === "not_done") return effect.why_not ?? "";
  return WHAT[effect.kind];
}

const text = (cell: string | boolean | readonly string[] | undefined): string => {
  if (cell === undefined || cell === "") return "nothing";
  return typeof cell === "string" ? cell : JSON.stringify(cell);
};

const WHAT: Record<Exclude<Effect["kind"], "row" | "notice" | "not_done">, string> = {
  call: "another system is called",
  status: "its status is set",
  care: "who takes care is set",
  contact: "a field of the contact is set",
  value: "a carried value is set",
  list: "somebody is added to a contact list",
};

/** A correction of which nobody has said yet whether dispatch acts on it. */
export function Undecided({ id, entryId }: CorrectingProps) {
  const query = useQuery({
    queryKey: ["entry", id, entryId, "corrections"],
    queryFn: () =>
      got(client.GET("/api/questionnaires/{id}/entries/{entry_id}/corrections", at(id, entryId))),
    gcTime: 0,
  });
  const known = useQuery(registers).data ?? [];
  const settling = useDoing(
    (act: boolean) =>
      got(
        client.POST("/api/questionnaires/{id}/entries/{entry_id}/corrections/settled", {
          ...at(id, entryId),
          body: { act },
        }),
      ),
    [
      ["entry", id, entryId],
      ["entries", id],
    ],
  );
  const effects = query.data?.effects;
  return (
    <Waits>
      <Strip>
        <b>It was corrected. Should dispatch act on that?</b>
        {query.error ? <span>{query.error.message}</span> : null}
        {effects?.length ? (
          <ul>
            {effects.map((effect, n) => (
              <li key={n}>{said(effect, known)}</li>
            ))}
          </ul>
        ) : effects ? (
          <Quiet>By the rules as they are, nothing would change.</Quiet>
        ) : null}
        <span>
          <Button isDisabled={!effects || settling.isPending} onPress={() => settling.mutate(true)}>
            Do this
          </Button>{" "}
          <Button isDisabled={settling.isPending} onPress={() => settling.mutate(false)}>
            Leave it
          </Button>
        </span>
        {settling.error ? <span>{settling.error.message}</span> : null}
      </Strip>
    </Waits>
  );
}
