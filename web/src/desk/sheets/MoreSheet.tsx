/** The draft as a file, in our own form or FHIR's, and another questionnaire made from it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { leftOut, questionnaires } from "../data";
import { PlacementPart } from "../office/PlacementPart";
import { count } from "../document";

const Ways = styled.ul`
  display: grid;
  gap: 12px;
  a {
    font-weight: 600;
  }
  > li > a {
    display: inline-block;
    min-height: 26px;
  }
  p,
  li li {
    color: var(--ink-2);
  }
  summary {
    cursor: pointer;
    min-height: 26px;
  }
`;

interface MoreSheetProps {
  id: string;
  writes: boolean;
  onClose: () => void;
  /** Opens the earlier editions, where there are some. */
  onEditions: (() => void) | null;
}

export function MoreSheet({ id, writes, onClose, onEditions }: MoreSheetProps) {
  const base = `/api/questionnaires/${id}/draft`;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const lost = useQuery(leftOut(id)).data?.left ?? [];
  const copying = useMutation({
    mutationFn: () =>
      got(client.POST("/api/questionnaires/{id}/copies", { params: { path: { id } } })),
    onSuccess: async (made) => {
      await queries.invalidateQueries(questionnaires);
      onClose();
      await navigate({ to: "/q/$id/script", params: { id: made.id } });
    },
  });
  return (
    <Sheet title="More" open onClose={onClose}>
      {onEditions ? (
        <Button onPress={onEditions} style={{ justifySelf: "start" }}>
          Earlier editions
        </Button>
      ) : null}
      {writes ? <PlacementPart id={id} /> : null}
      {copying.error ? <Strip tone="wrong">{copying.error.message}</Strip> : null}
      <Ways>
        <li>
          <a href={`${base}/file`} download>
            Export as a file (JSON)
          </a>
          <p>
            All of it; can be imported again. Its{" "}
            <a href="/api/questionnaires/schema">JSON Schema</a> says what it holds.
          </p>
        </li>
        <li>
          <a href={`${base}/fhir`} download>
            Export as an HL7 FHIR Questionnaire (R4, JSON)
          </a>
          {lost.length ? (
            <details>
              <summary>Without {count(lost.length, "thing")} that FHIR cannot say</summary>
              <ul>
                {lost.map((sentence, number) => (
                  <li key={number}>{sentence}</li>
                ))}
              </ul>
            </details>
          ) : (
            <Quiet as="p">FHIR can say all of this draft.</Quiet>
          )}
        </li>
      </Ways>
      <Actions>
        <Button onPress={onClose}>Close</Button>
        {writes ? (
          <Button isDisabled={copying.isPending} onPress={() => copying.mutate()}>
            Make a copy
          </Button>
        ) : null}
      </Actions>
    </Sheet>
  );
}
