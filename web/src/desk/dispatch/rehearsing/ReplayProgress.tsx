/** A replay under way, and what came of it. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { client, got, type Schema } from "../../../client/client";
import { Button } from "../../../ui/Button";
import { Strip } from "../../../ui/Strip";
import { count } from "../../document";
import { useDoing } from "../../useDoing";
import { hasEnded, untilEnded } from "../../work";

export type Kind = Schema<"ReplayIn">["kinds"][number];

export const KINDS: readonly { code: Kind; label: string }[] = [
  { code: "row", label: "Rows" },
  { code: "notice", label: "Letters" },
  { code: "call", label: "Calls" },
  { code: "status", label: "Statuses" },
  { code: "care", label: "Who takes care" },
  { code: "contact", label: "Fields of contacts" },
  { code: "value", label: "Carried values" },
  { code: "list", label: "Places on lists" },
];

interface UnderWayProps {
  id: string;
  workId: string;
  onEnd: () => void;
}

/** How far it is, with a way to stop; then what came of it. */
export function UnderWay({ id, workId, onEnd }: UnderWayProps) {
  const queries = useQueryClient();
  const path = { params: { path: { id, work_id: workId } } };
  const work = useQuery({
    queryKey: ["replay", workId],
    queryFn: () => got(client.GET("/api/questionnaires/{id}/dispatch/replay/{work_id}", path)),
    refetchInterval: untilEnded,
    gcTime: 0,
  }).data;
  const stopping = useDoing(() =>
    got(client.POST("/api/questionnaires/{id}/dispatch/replay/{work_id}/stop", path)),
  );
  const ended = hasEnded(work);
  useEffect(() => {
    if (ended) void queries.invalidateQueries({ queryKey: ["replay look", id] });
  }, [ended, queries, id]);
  if (!work || !ended)
    return (
      <p>
        <span role="status">
          {work?.state === "running"
            ? `${work.done} of ${count(work.total, "entry")} looked at`
            : "Waiting for the worker to begin"}
        </span>{" "}
        <Button
          isDisabled={stopping.isPending || stopping.isSuccess}
          onPress={() => stopping.mutate()}
        >
          {stopping.isSuccess ? "Stopping" : "Stop"}
        </Button>
      </p>
    );
  if (work.state === "failed") {
    const faults = work.result["faults"] as { message: string }[];
    return (
      <>
        <Strip tone="wrong">{faults.map(({ message }) => message).join(" ")}</Strip>
        <Button onPress={onEnd}>Look again</Button>
      </>
    );
  }
  const number = (key: string) => Number(work.result[key] ?? 0);
  const done = [
    ...KINDS.map(({ code, label }) => [number(code), label.toLowerCase()] as const),
    [number("failed"), "not done: see Not done yet"] as const,
  ].filter(([many]) => many);
  return (
    <>
      <p role="status">
        {work.result["stopped"] ? "Stopped. " : ""}Replayed on {count(number("entries"), "entry")}
        {done.length ? `: ${done.map(([many, label]) => `${many} ${label}`).join(", ")}` : ""}.
      </p>
      <Button onPress={onEnd}>Look again</Button>
    </>
  );
}
