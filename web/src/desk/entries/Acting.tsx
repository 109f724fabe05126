/** Something done with many entries: how far it is, with a way to stop; what came of it, and back. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { client, got, type Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { count, entryNumber } from "../document";
import { hasEnded, untilEnded } from "../work";
import { entryColumns } from "./data";
import type { EntryAct } from "./ChosenBar";

type Work = Schema<"WorkOut">;

export interface Acting {
  work: Work;
  act: EntryAct["do"] | "undo";
}

/** Begins acts, one at a time, and undoes the last one. */
export function useActing(id: string) {
  const queries = useQueryClient();
  const [acting, setActing] = useState<Acting | null>(null);
  const [error, setError] = useState("");
  const workId = acting?.work.id ?? "";
  const path = { params: { path: { id, work_id: workId } } };
  const asked = useQuery({
    queryKey: ["entry work", workId],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/entry-work/{work_id}", path)),
    enabled: Boolean(acting),
    refetchInterval: untilEnded,
    gcTime: 0,
  }).data;
  const work = asked ?? acting?.work;
  const ended = hasEnded(work);
  useEffect(() => {
    if (!ended) return;
    for (const queryKey of [
      ["entries", id],
      ["entry", id],
      ["gate", id],
      entryColumns(id).queryKey,
    ])
      void queries.invalidateQueries({ queryKey });
  }, [ended, queries, id, workId]);
  const begun = (act: Acting["act"], asking: Promise<Work>) => {
    setError("");
    asking.then(
      (work) => setActing({ act, work }),
      (failed: unknown) => setError(failed instanceof Error ? failed.message : String(failed)),
    );
  };
  return {
    acting: acting && work ? { ...acting, work } : null,
    isBusy: Boolean(acting) && !ended,
    error,
    begin: (body: EntryAct) =>
      begun(
        body.do,
        got(
          client.POST("/api/questionnaires/{id}/entry-work", {
            params: { path: { id } },
            body,
          }),
        ),
      ),
    stop: () => void got(client.POST("/api/questionnaires/{id}/entry-work/{work_id}/stop", path)),
    undo: () =>
      begun("undo", got(client.POST("/api/questionnaires/{id}/entry-work/{work_id}/undo", path))),
    close: () => {
      setActing(null);
      setError("");
    },
  };
}

const SAID: Record<Acting["act"], string> = {
  status: "given their status",
  archive: "put into the archive",
  take_back: "taken out of the archive",
  care: "given to whoever takes care",
  delete: "deleted",
  undo: "put back as before",
};

interface Named {
  number: number;
  wrong: string;
}

export function ActingStrip({ of }: { of: ReturnType<typeof useActing> }) {
  const { acting, isBusy, error } = of;
  if (error)
    return (
      <Strip tone="wrong">
        {error} <Button onPress={of.close}>Close</Button>
      </Strip>
    );
  if (!acting) return null;
  const { work, act } = acting;
  if (isBusy)
    return (
      <Strip tone="calm">
        <span role="status">
          {work.state === "running"
            ? `${work.done} of ${count(work.total, "entry")} done`
            : "Waiting for the worker to begin"}
        </span>
        <Button onPress={of.stop}>Stop</Button>
      </Strip>
    );
  if (work.state === "failed") {
    const faults = work.result["faults"] as { message: string }[];
    return (
      <Strip tone="wrong">
        {faults.map(({ message }) => message).join(" ")} <Button onPress={of.close}>Close</Button>
      </Strip>
    );
  }
  return (
    <Strip tone="calm">
      <span role="status">{cameOf(work, act)}</span>
      <span>
        {act !== "delete" && act !== "undo" && Number(work.result["entries"] ?? 0) ? (
          <Button onPress={of.undo}>Undo</Button>
        ) : null}{" "}
        <Button onPress={of.close}>Close</Button>
      </span>
    </Strip>
  );
}

function cameOf({ result }: Work, act: Acting["act"]): string {
  const many = Number(result["entries"] ?? 0);
  const wrong = Number(result["wrong"] ?? 0);
  const named = (result["named"] ?? []) as Named[];
  const told = named
    .slice(0, 3)
    .map((one) => `${entryNumber(one.number)}: ${one.wrong}`)
    .join(" ");
  return [
    result["stopped"] ? "Stopped." : "",
    `${count(many, "entry")} ${SAID[act]}.`,
    wrong ? `${count(wrong, "entry")} stayed as before. ${told}` : "",
  ]
    .filter(Boolean)
    .join(" ");
}
