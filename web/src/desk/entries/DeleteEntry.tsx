/** Deleting an entry for good, once its number was typed. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { questionnaire } from "../data";
import { entryNumber } from "../document";
import { useDoing } from "../useDoing";

interface DeleteProps {
  id: string;
  entryId: string;
  number: number;
}

export function DeleteEntry({ id, entryId, number }: DeleteProps) {
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const said = entryNumber(number);
  const deleting = useDoing(
    () =>
      got(
        client.DELETE("/api/questionnaires/{id}/entries/{entry_id}", {
          params: { path: { id, entry_id: entryId } },
        }),
      ),
    [["entries", id], questionnaire(id).queryKey, ["gate", id]],
    () => void navigate({ to: "/q/$id/entries", params: { id }, search: {} }),
  );
  return (
    <>
      <Button weight="word" onPress={() => setAsking(true)}>
        Delete this entry
      </Button>
      <Sheet title={`Delete entry ${said}`} open={asking} onClose={() => setAsking(false)}>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (typed.trim() === said) deleting.mutate();
          }}
        >
          <p>
            The entry and its files are gone for good, and its place is free again. Rows in
            registers stay.
          </p>
          <Field label={`Type ${said} to delete it`} value={typed} onChange={setTyped} autoFocus />
          {deleting.error ? <Strip tone="wrong">{deleting.error.message}</Strip> : null}
          <Actions style={{ marginTop: 14 }}>
            <Button onPress={() => setAsking(false)}>Cancel</Button>
            <Button
              weight="main"
              type="submit"
              isDisabled={typed.trim() !== said || deleting.isPending}
            >
              Delete
            </Button>
          </Actions>
        </form>
      </Sheet>
    </>
  );
}
