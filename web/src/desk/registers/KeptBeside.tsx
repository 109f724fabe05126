/** Restricted answers beside a row, for those with clearance: covered until somebody shows them. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { Covered } from "../entries/reading/Covered";

interface KeptBesideProps {
  id: string;
  row: number;
  kept: readonly Schema<"KeptOut">[];
}

const nameOf = (one: { questionnaire_id: string; key: string }) =>
  `${one.questionnaire_id} ${one.key}`;

export function KeptBeside({ id, row, kept }: KeptBesideProps) {
  const [reason, setReason] = useState("");
  const showing = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/registers/{id}/rows/{row_id}/revealed", {
          params: { path: { id, row_id: row } },
          body: { reason },
        }),
      ),
    gcTime: 0,
  });
  const asks = kept.some(({ asks_reason }) => asks_reason);
  const shown = new Map(showing.data?.map((one) => [nameOf(one), one.words]));
  return (
    <section aria-label="Restricted">
      <h3>Restricted</h3>
      <dl>
        {kept.map((one) => (
          <div key={nameOf(one)} style={{ display: "contents" }}>
            <dt>{one.label}</dt>
            <dd>{showing.data ? shown.get(nameOf(one)) || <Quiet>empty</Quiet> : <Covered />}</dd>
          </div>
        ))}
      </dl>
      {showing.error ? <Strip tone="wrong">{showing.error.message}</Strip> : null}
      {showing.data ? (
        <Button weight="word" onPress={() => showing.reset()}>
          Cover them again
        </Button>
      ) : (
        <>
          {asks ? (
            <Field
              label="Why you have to see this"
              help="It stands on the trail."
              value={reason}
              maxLength={500}
              onChange={setReason}
            />
          ) : null}
          <Button
            isDisabled={showing.isPending || (asks && !reason.trim())}
            onPress={() => showing.mutate()}
          >
            Show restricted answers
          </Button>
        </>
      )}
    </section>
  );
}
