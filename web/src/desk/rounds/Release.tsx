/** Releasing people who were drawn, portion by portion: they get their passes, and the first step
 * can go to them. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { workOf } from "../links/data";
import { usePlaceId } from "../shell/Place";
import { useDoing } from "../useDoing";
import { people } from "./words";
import { releasePortion, ROUNDS, type RoundOut } from "./data";

export function Release({ one }: { one: RoundOut }) {
  const id = usePlaceId();
  const queries = useQueryClient();
  const [workId, setWorkId] = useState("");
  const asking = useDoing(
    () => releasePortion(id, one.id),
    [],
    (work) => setWorkId(work.id),
  );
  const work = useQuery({ ...workOf(id, workId), enabled: Boolean(workId) }).data;
  const ended = work?.state === "done" || work?.state === "failed";
  useEffect(() => {
    if (ended) void queries.invalidateQueries({ queryKey: ROUNDS(id) });
  }, [ended, queries, id]);
  const next = one.portions.find(({ released }) => !released);
  const faults = (work?.result["faults"] ?? []) as { message: string }[];
  if (!next && !faults.length) return null;
  return (
    <section aria-label="Release" style={{ display: "grid", gap: 8, justifyItems: "start" }}>
      {work && !ended ? (
        <p role="status">
          Passes are made: {work.done} of {work.total}.
        </p>
      ) : next ? (
        <p>
          {people(next.people)}
          {one.portions.length > 1 ? ` of portion ${next.number}` : ""} are not released yet: they
          have no pass, and no step goes to them.{" "}
          <Button isDisabled={asking.isPending} onPress={() => asking.mutate()}>
            Release {next.people}
          </Button>
        </p>
      ) : null}
      {asking.error ? <Strip tone="wrong">{asking.error.message}</Strip> : null}
      {faults.length ? (
        <Strip tone="wrong">
          They were not released: {[...new Set(faults.map(({ message }) => message))].join(" ")}
        </Strip>
      ) : null}
    </section>
  );
}
