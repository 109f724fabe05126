/** Import a questionnaire from a file: what is wrong with it, line by line, or what was left out. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";

import { asBytes, client, ApiError, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { Sentences } from "../../ui/Sentences";
import { Quiet } from "../../ui/text";
import { questionnaires } from "../data";
import { count } from "../document";

/** The largest file that is taken, in bytes. */
const LARGEST = 2_000_000;

async function importFile(file: File) {
  if (file.size > LARGEST) {
    throw new ApiError(413, { detail: "The file is over 2 MB, too large for a questionnaire." });
  }
  return got(client.POST("/api/questionnaires/files", asBytes(file)));
}

export function ImportSheet({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const importing = useMutation({
    mutationFn: importFile,
    onSuccess: async ({ id, left }) => {
      await queries.invalidateQueries(questionnaires);
      if (!left.length) await navigate({ to: "/q/$id/script", params: { id } });
    },
  });
  const { data, error } = importing;
  const faults = error instanceof ApiError ? error.faults : [];
  return (
    <Sheet title="Import a questionnaire" open onClose={onClose} width="wide">
      {error ? <Strip tone="wrong">{error.message}</Strip> : null}
      {faults.length ? (
        <Sentences aria-label="What is wrong">
          {faults.map(({ message, at }, number) => (
            <li key={number}>
              {message} <Quiet>{at}</Quiet>
            </li>
          ))}
        </Sentences>
      ) : null}
      {data ? (
        <>
          <p>It is imported, without {count(data.left.length, "thing")}:</p>
          <Sentences aria-label="What was left out">
            {data.left.map((sentence, number) => (
              <li key={number}>{sentence}</li>
            ))}
          </Sentences>
        </>
      ) : (
        <label>
          <Quiet as="p">
            A file exported from Jot Gate, or an HL7 FHIR Questionnaire (R4, JSON).
          </Quiet>
          <input
            type="file"
            accept=".json,application/json,application/fhir+json"
            aria-label="File"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) importing.mutate(file);
              event.target.value = "";
            }}
          />
        </label>
      )}
      <Actions>
        <Button onPress={onClose}>Cancel</Button>
        {data ? (
          <Button
            weight="main"
            onPress={() => void navigate({ to: "/q/$id/script", params: { id: data.id } })}
          >
            Open it
          </Button>
        ) : null}
      </Actions>
    </Sheet>
  );
}
