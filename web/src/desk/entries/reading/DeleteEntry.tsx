/** Deleting an entry for good, once its number was typed. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { client, got } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { questionnaire } from "../../data";
import { entryNumber } from "../../document";
import { DeleteSheet } from "../../shell/DeleteSheet";
import { useDoing } from "../../useDoing";

interface DeleteProps {
  id: string;
  entryId: string;
  number: number;
}

export function DeleteEntry({ id, entryId, number }: DeleteProps) {
  const [asking, setAsking] = useState(false);
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
      <DeleteSheet
        title={`Delete entry ${said}`}
        open={asking}
        word={said}
        what="it"
        error={deleting.error?.message}
        isPending={deleting.isPending}
        onClose={() => setAsking(false)}
        onDelete={() => deleting.mutate()}
      >
        The entry and its files are gone for good, and its place is free again. Rows in registers
        stay.
      </DeleteSheet>
    </>
  );
}
