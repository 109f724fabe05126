/** Where a questionnaire lies on the desk: its folder, and whether others can start from it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { fieldBox } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { Toggle } from "../../ui/Toggle";
import { questionnaire, questionnaires } from "../data";

const Whole = styled.div`
  display: grid;
  gap: 8px;
  padding-bottom: 12px;
  border-bottom: 1px solid var(--line);
  > div {
    display: flex;
    gap: 8px;
  }
  label {
    font-weight: 600;
  }
  input:not([type="checkbox"]) {
    ${fieldBox}
    min-height: 34px;
  }
`;

export function PlacementPart({ id }: { id: string }) {
  const found = useQuery(questionnaire(id)).data;
  return found ? <Placement found={found} /> : null;
}

function Placement({ found }: { found: Schema<"SummaryOut"> }) {
  const { id } = found;
  const queries = useQueryClient();
  const lines = useQuery(questionnaires).data ?? [];
  const [folder, setFolder] = useState(found.folder);
  const names = [...new Set(lines.map((line) => line.folder))].filter(Boolean);
  const [field, list] = [useId(), useId()];
  const putting = useMutation({
    mutationFn: (body: Schema<"Placement">) =>
      got(client.PUT("/api/questionnaires/{id}/placement", { params: { path: { id } }, body })),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries(questionnaires),
        queries.invalidateQueries(questionnaire(id)),
      ]),
  });
  return (
    <Whole>
      {putting.error ? <Strip tone="wrong">{putting.error.message}</Strip> : null}
      <label htmlFor={field}>Folder</label>
      <div>
        <input
          id={field}
          list={list}
          value={folder}
          maxLength={80}
          placeholder="none"
          onChange={(event) => setFolder(event.target.value)}
        />
        <datalist id={list}>
          {names.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <Button
          isDisabled={folder.trim() === found.folder || putting.isPending}
          onPress={() => putting.mutate({ folder })}
        >
          Put there
        </Button>
      </div>
      <Toggle isSelected={found.template} onChange={(template) => putting.mutate({ template })}>
        Offered as a template for new ones
      </Toggle>
    </Whole>
  );
}
