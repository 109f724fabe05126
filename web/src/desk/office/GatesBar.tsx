/** The gates of several questionnaires, opened, held and shut at once. */
import { useState } from "react";
import styled from "styled-components";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { questionnaires } from "../data";
import { count } from "../document";
import { useDoing } from "../useDoing";

type Line = Schema<"DeskLineOut">;
type Changed = Schema<"ChangedOut">;

const Bar = styled.section`
  position: sticky;
  bottom: 0;
  z-index: 2;
  margin-top: 16px;
  background: var(--paper);
  border: 1px solid var(--line-2);
  border-radius: 4px;
  padding: 10px 14px;
  display: grid;
  gap: 8px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: end;
  b {
    align-self: center;
  }
  > div {
    flex: 1 1 220px;
  }
`;

export function GatesBar({ lines, onDone }: { lines: readonly Line[]; onDone: () => void }) {
  const [note, setNote] = useState("");
  const [wrong, setWrong] = useState<readonly Changed[]>([]);
  const doing = useDoing(
    (state: Schema<"ManyIn">["state"]) =>
      got(
        client.PUT("/api/gates", {
          body: { ids: lines.map(({ id }) => id), state, note: note.trim() },
        }),
      ),
    [questionnaires.queryKey, ["questionnaire"], ["gate"]],
    (found) => {
      const failed = found.filter((one) => one.wrong);
      if (failed.length) setWrong(failed);
      else onDone();
    },
  );
  const titleOf = (id: string) => lines.find((line) => line.id === id)?.title ?? "";
  const press = (state: Schema<"ManyIn">["state"]) => () => doing.mutate(state);
  return (
    <Bar aria-label="The gates of those chosen">
      <Row>
        <b>{count(lines.length, "questionnaire")} chosen</b>
        <Field label="Why, for your colleagues" value={note} onChange={setNote} maxLength={500} />
        <Button onPress={press("open")} isDisabled={doing.isPending}>
          Open
        </Button>
        <Button onPress={press("held")} isDisabled={doing.isPending}>
          Hold
        </Button>
        <Button onPress={press("shut")} isDisabled={doing.isPending}>
          Shut
        </Button>
        <Button weight="word" onPress={onDone}>
          Choose none
        </Button>
      </Row>
      {doing.error ? <Strip tone="wrong">{doing.error.message}</Strip> : null}
      {wrong.map((one) => (
        <Strip key={one.id} tone="wrong">
          {titleOf(one.id)}: {one.wrong}
        </Strip>
      ))}
    </Bar>
  );
}
