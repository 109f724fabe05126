/** The trail: who did and who saw what. */
import { useQuery } from "@tanstack/react-query";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Ledger } from "../../ui/Ledger";
import { Quiet } from "../../ui/text";
import { questionnaires, trailPage } from "../data";
import { RoomHead } from "../shell/Office";
import { Broken, Waiting } from "../shell/states";
import { useOlder } from "../useOlder";
import { whole } from "../when";

type Mark = Schema<"TrailEntryOut">;

function said(mark: Mark): string {
  const { detail } = mark;
  switch (mark.action) {
    case "signed_in":
      return "signed in";
    case "created":
      return "started the questionnaire";
    case "published":
      return `published edition ${String(detail["edition"])}`;
    case "gate_changed":
      return `set the gate to ${String(detail["state"])}`;
    case "dispatch_changed":
      return "changed the dispatch rules";
    case "register_created":
      return `made the register ${String(detail["name"])}`;
    case "set_free": {
      const keys = (detail["keys"] as string[]).join(", ");
      return `set free what depends on restricted answers: ${keys}`;
    }
    case "restricted_seen":
      return `saw the restricted answers of entry ${String(detail["number"])}`;
  }
}

export function TrailRoom() {
  const names = useQuery(questionnaires).data ?? [];
  const query = useOlder(["trail"], trailPage, (page) => page.marks.at(-1)?.id);
  if (query.isError)
    return <Broken error={query.error} onRetry={() => void query.refetch()} stands="room" />;
  if (!query.data) return <Waiting />;
  const marks = query.data.pages.flatMap((page) => page.marks);
  return (
    <>
      <RoomHead>
        <h1>Trail</h1>
        <Quiet>Who did and who saw what, the newest first</Quiet>
      </RoomHead>
      <Ledger name="Trail">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Who</th>
            <th scope="col">What</th>
            <th scope="col">Questionnaire</th>
          </tr>
        </thead>
        <tbody>
          {marks.map((mark) => (
            <tr key={mark.id}>
              <td>{whole(mark.at)}</td>
              <td>{mark.who}</td>
              <td>{said(mark)}</td>
              <td>{names.find(({ id }) => id === mark.questionnaire_id)?.title}</td>
            </tr>
          ))}
        </tbody>
      </Ledger>
      {query.hasNextPage ? (
        <Button onPress={() => void query.fetchNextPage()}>Show older</Button>
      ) : null}
    </>
  );
}
