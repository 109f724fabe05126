/** The layout of a graph, made by ELK in a worker: what is drawn waits for nothing. */
import ELK from "elkjs/lib/elk-api";
import worker from "elkjs/lib/elk-worker.min.js?url";
import { useEffect, useState } from "react";

import type { Graph } from "./graph";
import { asElk, laidOut, type Laid } from "./layout";

export function useLayout(graph: Graph): Laid | null {
  const [elk, setElk] = useState<InstanceType<typeof ELK> | null>(null);
  const [laid, setLaid] = useState<Laid | null>(null);
  const wanted = JSON.stringify(asElk(graph));
  useEffect(() => {
    const made = new ELK({ workerFactory: () => new Worker(worker) });
    // A layout engine belongs to one drawing, and ends with it.
    const timer = setTimeout(() => setElk(made));
    return () => {
      clearTimeout(timer);
      made.terminateWorker();
    };
  }, []);
  useEffect(() => {
    let current = true;
    void elk?.layout(JSON.parse(wanted) as Parameters<typeof elk.layout>[0]).then((whole) => {
      if (current) setLaid(laidOut(whole));
    });
    return () => {
      current = false;
    };
  }, [elk, wanted]);
  return laid;
}
