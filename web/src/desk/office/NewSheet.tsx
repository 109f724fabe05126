/** A new questionnaire: its name, and what it starts from. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { Actions, Sheet } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { questionnaires, starts } from "../data";

interface NewSheetProps {
  lines: readonly Schema<"DeskLineOut">[];
  onClose: () => void;
}

const BLANK = "blank";

export function NewSheet({ lines, onClose }: NewSheetProps) {
  const [title, setTitle] = useState("");
  const [from, setFrom] = useState(BLANK);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const ours = useQuery(starts).data ?? [];
  const chosen = ours.find(({ name }) => name === from);
  const template = lines.find(({ id }) => id === from);
  const adding = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires", {
          body: { title, start: chosen?.name ?? null, template: template?.id ?? null },
        }),
      ),
    onSuccess: async ({ id }) => {
      await queries.invalidateQueries(questionnaires);
      await navigate({ to: "/q/$id/script", params: { id } });
    },
  });
  return (
    <Sheet title="New questionnaire" open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (title.trim()) adding.mutate();
        }}
      >
        {adding.error ? <Strip tone="wrong">{adding.error.message}</Strip> : null}
        <Field label="What is it called?" value={title} onChange={setTitle} autoFocus isRequired />
        <div style={{ marginTop: 14 }}>
          <Picker
            label="What does it start from?"
            options={[
              { code: BLANK, label: "A blank page" },
              ...lines
                .filter((line) => line.template)
                .map((line) => ({
                  code: line.id,
                  label: line.title,
                  detail: "A template of yours",
                })),
              ...ours.map(({ name, title: code, about }) => ({
                code: name,
                label: code,
                detail: about,
              })),
            ]}
            value={from}
            onChange={setFrom}
          />
        </div>
        <Actions style={{ marginTop: 16 }}>
          <Button onPress={onClose}>Cancel</Button>
          <Button weight="main" type="submit" isDisabled={!title.trim() || adding.isPending}>
            Start writing
          </Button>
        </Actions>
      </form>
    </Sheet>
  );
}
