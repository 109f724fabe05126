/** What people of the office write to each other about an entry. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { Strip } from "../../../ui/Strip";
import { Quiet } from "../../../ui/text";
import { useDoing } from "../../useDoing";
import { whenAmid } from "../../when";

const List = styled.ul`
  li {
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
    white-space: pre-line;
  }
`;

export function Notes({ id, entryId }: { id: string; entryId: string }) {
  const [words, setWords] = useState("");
  const at = { params: { path: { id, entry_id: entryId } } };
  const key = ["entry notes", id, entryId];
  const notes = useQuery({
    queryKey: key,
    queryFn: () => got(client.GET("/api/questionnaires/{id}/entries/{entry_id}/notes", at)),
    refetchInterval: 4000,
  }).data;
  const adding = useDoing(
    () =>
      got(
        client.POST("/api/questionnaires/{id}/entries/{entry_id}/notes", {
          ...at,
          body: { words },
        }),
      ),
    [key],
    () => setWords(""),
  );
  const removing = useDoing(
    (noteId: string) =>
      got(
        client.DELETE("/api/questionnaires/{id}/entries/{entry_id}/notes/{note_id}", {
          params: { path: { id, entry_id: entryId, note_id: noteId } },
        }),
      ),
    [key],
  );
  const failed = adding.error ?? removing.error;
  return (
    <>
      <h3>Notes</h3>
      {notes?.length ? (
        <List>
          {notes.map((note) => (
            <li key={note.id}>
              {note.words}
              <br />
              <Quiet>
                {note.who || "Somebody who left"}, {whenAmid(note.written)}
              </Quiet>{" "}
              {note.own ? (
                <Button
                  weight="word"
                  aria-label={`Take back the note of ${whenAmid(note.written)}`}
                  onPress={() => removing.mutate(note.id)}
                >
                  Take back
                </Button>
              ) : null}
            </li>
          ))}
        </List>
      ) : null}
      <form
        style={{ display: "grid", gap: 8, justifyItems: "start", marginTop: 6 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (words.trim()) adding.mutate();
        }}
      >
        <Field
          label="Write a note"
          help="Everybody who reads these entries sees it."
          value={words}
          maxLength={2000}
          onChange={setWords}
          style={{ width: "100%" }}
        />
        <Button type="submit" isDisabled={!words.trim() || adding.isPending}>
          Add the note
        </Button>
      </form>
      {failed ? <Strip tone="wrong">{failed.message}</Strip> : null}
    </>
  );
}
