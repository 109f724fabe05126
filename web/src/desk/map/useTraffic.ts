/** What is counted on the map, where that is wanted. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";

import { editionAt, questionnaire } from "../data";
import { useRight } from "../shell/rights";
import { graphOf, type Graph } from "./graph";
import { countsOf, NO_COUNTS, trafficQuery, type Counts, type Traffic } from "./traffic";

export interface Counting {
  isOn: boolean;
  turn: (on: boolean) => void;
  /** Have another edition counted than the newest. */
  choose: (edition: number) => void;
  traffic: Traffic | undefined;
  /** The edition as a graph. */
  then: Graph | undefined;
  counts: Counts;
  error: Error | null;
}

/** Whether anything can be counted, by whoever looks. */
export function useCounted(id: string): boolean {
  const published = (useQuery(questionnaire(id)).data?.edition ?? 0) > 0;
  return useRight("read") && published;
}

/** `now` is the draft. */
export function useTraffic(id: string, now: Graph): Counting {
  const [isOn, turn] = useState(false);
  const [edition, choose] = useState<number | null>(null);
  const query = useQuery({ ...trafficQuery(id, edition), enabled: isOn });
  const traffic = isOn ? query.data : undefined;
  const known = useQuery({ ...editionAt(id, traffic?.edition ?? 0), enabled: Boolean(traffic) });
  const document = traffic && known.data?.number === traffic.edition ? known.data.document : null;
  const then = useMemo(() => (document ? graphOf(document) : undefined), [document]);
  const counts = useMemo(
    () => (traffic && then ? countsOf(traffic, then, now) : NO_COUNTS),
    [traffic, then, now],
  );
  return { isOn, turn, choose, traffic, then, counts, error: query.error };
}
