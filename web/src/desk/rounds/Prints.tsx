/** The letters of a step on paper: made into one PDF, fetched for the printer. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";
import { Quiet } from "../../ui/text";
import { count } from "../document";
import { workOf } from "../links/data";
import { usePlaceId } from "../shell/Place";
import { useRight } from "../shell/rights";
import { useDoing } from "../useDoing";
import { when } from "../when";
import { hasEnded } from "../work";
import { onPaper, printAddress, printLetters, ROUNDS, type OnPaper } from "./data";

const Part = styled.section`
  display: grid;
  gap: 8px;
  justify-items: start;
  border-inline-start: 3px solid var(--accent-mid);
  padding-inline-start: 12px;
`;

/** How the letters stand: "48 to be printed, 2 left out". */
function told({ waiting, sent, left_out, failed }: OnPaper): string {
  const parts = [
    waiting ? `${waiting} to be printed` : "",
    sent ? `${sent} printed` : "",
    left_out ? `${left_out} left out` : "",
    failed ? `${failed} whose address does not fit the window` : "",
  ];
  return parts.filter(Boolean).join(", ") || "nobody to print for";
}

function Batch({ roundId, one }: { roundId: string; one: OnPaper }) {
  const id = usePlaceId();
  const writes = useRight("write");
  const queries = useQueryClient();
  const [workId, setWorkId] = useState("");
  const asking = useDoing(
    () => printLetters(id, roundId, one.id),
    [],
    (work) => setWorkId(work.id),
  );
  const work = useQuery({ ...workOf(id, workId), enabled: Boolean(workId) }).data;
  const ended = hasEnded(work);
  useEffect(() => {
    if (ended) void queries.invalidateQueries({ queryKey: ROUNDS(id) });
  }, [ended, queries, id]);
  const faults = (work?.result["faults"] ?? []) as { message: string }[];
  const busy = Boolean(workId) && !ended;
  const any = one.waiting + one.sent + one.failed;
  return (
    <Part aria-label={`Letters on paper, ${when(one.made)}`}>
      <p>
        {when(one.made)}: {told(one)}.
      </p>
      {busy ? (
        <p role="status">
          The PDF is made: {work?.done ?? 0} of {work?.total ?? any} letters.
        </p>
      ) : writes && any ? (
        <Button isDisabled={asking.isPending} onPress={() => asking.mutate()}>
          {one.printed ? "Make the PDF again" : `Make a PDF of ${count(any, "letter")}`}
        </Button>
      ) : null}
      {one.printed && !busy ? (
        <>
          <p>
            <a href={printAddress(id, roundId, one.id, "pdf")} download>
              {count(one.printed.letters, "letter")} on {count(one.printed.pages, "page")} (PDF)
            </a>
            {", "}
            <a href={printAddress(id, roundId, one.id, "csv")} download>
              the list of them (CSV)
            </a>
          </p>
          <Quiet>
            Made {when(one.printed.at)}, kept until {when(one.printed.until)}. Made again, it has
            only those who are still asked.
          </Quiet>
        </>
      ) : null}
      {asking.error ? <Strip tone="wrong">{asking.error.message}</Strip> : null}
      {faults.length ? (
        <Strip tone="wrong">{faults.map(({ message }) => message).join(" ")}</Strip>
      ) : null}
    </Part>
  );
}

export function Prints({ roundId, step }: { roundId: string; step: string }) {
  const found = useQuery(onPaper(usePlaceId(), roundId)).data ?? [];
  return found
    .filter((one) => one.step === step)
    .map((one) => <Batch key={one.id} roundId={roundId} one={one} />);
}
