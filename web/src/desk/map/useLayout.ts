/** The layout of a graph, made by ELK in a worker: what is drawn waits for nothing. */
import ELK from "elkjs/lib/elk-api";
import worker from "elkjs/lib/elk-worker.min.js?url";
import { useEffect, useRef, useState } from "react";

import type { Graph } from "./graph";
import { asElk, laidOut, type Laid } from "./layout";

/** The layout of `graph`, null until there is one; `onFirst` is told of the first. */
export function useLayout(graph: Graph, onFirst: (laid: Laid) => void): Laid | null {
  const [elk, setElk] = useState<InstanceType<typeof ELK> | null>(null);
  const [laid, setLaid] = useState<Laid | null>(null);
  const told = useRef(false);
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
      if (!current) return;
      const made = laidOut(whole);
      setLaid(made);
      if (!told.current) onFirst(made);
      told.current = true;
    });
    return () => {
      current = false;
    };
  }, [elk, wanted, onFirst]);
  return laid;
}
