/** Passes and letters that the worker makes: how far it is, and what will not do. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useEffect } from "react";

import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Actions } from "../../ui/Sheet";
import { Strip } from "../../ui/Strip";
import { count } from "../document";
import { usePlaceId } from "../shell/Place";
import { mailings, ways, workOf } from "./data";

export function Progress({ workId, onAgain }: { workId: string; onAgain: () => void }) {
  const id = usePlaceId();
  const go = useNavigate();
  const queries = useQueryClient();
  const work = useQuery(workOf(id, workId)).data;
  const way = work?.result["mailing_id"] ?? work?.result["batch_id"];
  const made = work?.state === "done" ? String(way) : "";
  useEffect(() => {
    if (!made) return;
    void queries.invalidateQueries(ways(id));
    void queries.invalidateQueries(mailings(id));
    void go({ to: "/q/$id/links", params: { id }, search: { way: made }, replace: true });
  }, [made, queries, go, id]);
  if (work?.state !== "failed") {
    return (
      <p role="status">
        {work?.state === "running"
          ? `${work.done} of ${work.total} rows`
          : "Waiting for the worker to begin"}
      </p>
    );
  }
  const faults = work.result["faults"] as { at: string; message: string }[];
  return (
    <>
      <Strip tone="wrong">
        Nothing was made: {count(faults.length, "row")} will not do
        {faults.length >= 100 ? ", or more" : ""}.
      </Strip>
      <Lines>
        {faults.map(({ at, message }, number) => (
          <li key={number}>
            <b>{at.startsWith("rows/") ? `Row ${at.slice(5)}` : ""}</b> {message}
          </li>
        ))}
      </Lines>
      <Actions style={{ justifyContent: "flex-start" }}>
        <Button weight="main" onPress={onAgain}>
          Begin again
        </Button>
      </Actions>
    </>
  );
}
