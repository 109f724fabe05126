/** The bench of a question: whether it is kept in the bank, and what the bank says by now. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { say, type Item, type Question } from "../document";
import type { Change } from "../kinds/setting";
import { Section } from "../shell/Section";
import type { Draft } from "../draft/useDraft";
import { bank, renewed, type Banked } from "./bank";

interface BankPartProps {
  item: Question;
  draft: Draft;
  onChange: Change;
}

export function BankPart({ item, draft, onChange }: BankPartProps) {
  const queries = useQueryClient();
  const all = useQuery(bank).data;
  const link = (banked: Question["banked"]) => onChange((one) => ({ ...one, banked }) as Item);
  const keep = useMutation({
    mutationFn: (over: Banked | null) =>
      over
        ? got(
            client.PUT("/api/bank/{id}", {
              params: { path: { id: over.id } },
              body: { item, revision: over.revision },
            }),
          )
        : got(client.POST("/api/bank", { body: { item } })),
    onSuccess: ({ id, revision }) => {
      link({ id, revision });
      void queries.invalidateQueries(bank);
    },
  });
  const { banked } = item;
  const there = banked && all?.find(({ id }) => id === banked.id);
  const newer = there && there.revision > banked.revision ? there : null;
  return (
    <Section title="Question bank">
      {keep.error ? <Strip tone="wrong">{keep.error.message}</Strip> : null}
      {newer ? (
        <>
          <Strip tone="care">
            Newer wording available: {say(draft.doc, newer.item.text) || newer.item.key}
          </Strip>
          <Button onPress={() => onChange((one) => renewed(draft.doc, one as Question, newer))}>
            Take the newer wording
          </Button>
        </>
      ) : there ? (
        <>
          <p>Linked: other questionnaires can take what you keep here.</p>
          <Button isDisabled={keep.isPending} onPress={() => keep.mutate(there)}>
            Keep this wording in the bank
          </Button>
        </>
      ) : banked && all ? (
        <p>It is no longer in the bank.</p>
      ) : null}
      {banked ? (
        <Button weight="word" onPress={() => link(null)}>
          Unlink it
        </Button>
      ) : (
        <Button isDisabled={keep.isPending} onPress={() => keep.mutate(null)}>
          Put into the bank
        </Button>
      )}
    </Section>
  );
}
