/** What is wrong with the answers, with a way to each. */
import { useEffect, useRef } from "react";
import styled from "styled-components";

import type { Fault } from "../client/client";
import type { Item } from "../items/answer";
import { useSay, type Say } from "../items/words";

const Summary = styled.div`
  border: 2px solid var(--rust);
  border-radius: 4px;
  padding: 12px 16px;
  margin-top: 18px;
  h2 {
    font-size: 18px;
    margin-bottom: 4px;
  }
  a {
    color: var(--rust);
  }
  li {
    padding: 3px 0;
  }
  li span {
    display: block;
  }
`;

/** What the question at a place is called; inside others, with what it stands in. */
function nameOf(items: readonly Item[], place: string, say: Say): string {
  const [key, ...steps] = place.split("/");
  const outer = items.find((item) => item.key === key);
  const inner = [...(outer?.items ?? []), ...(outer?.entries ?? []).flat()];
  const found = steps.map((step) => inner.find((item) => item.key === step)).find(Boolean);
  const [first = "", last = ""] = [steps[0], steps.at(-1)];
  const asked = found ?? outer;
  const within =
    outer?.kind === "roster" && first
      ? say("entry", { noun: outer.noun ?? "", number: Number(first) + 1 })
      : (outer?.rows?.find(({ code }) => code === first)?.label ?? "");
  const part = asked?.parts?.includes(last) ? say(`${asked.kind}_${last}`) : "";
  return [within, asked?.text, part].filter(Boolean).join(": ");
}

interface FailuresProps {
  faults: readonly Fault[];
  items: readonly Item[];
  /** All that was found wrong when the server was last asked to go on. */
  found: readonly Fault[];
  onReveal: (place: string) => void;
}

/** Has the focus whenever something was found anew. */
export function Failures({ faults, items, found, onReveal }: FailuresProps) {
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.focus(), [found]);
  return (
    <Summary ref={box} tabIndex={-1} role="alert">
      <h2>{faults.length === 1 ? say("one_fault") : say("faults", { count: faults.length })}</h2>
      <ul>
        {faults.map((fault) => (
          <li key={fault.at}>
            <a
              href={`#item-${fault.at}`}
              onClick={(event) => {
                event.preventDefault();
                onReveal(fault.at);
              }}
            >
              {nameOf(items, fault.at, say)}
            </a>
            <span>{fault.message}</span>
          </li>
        ))}
      </ul>
    </Summary>
  );
}

/** Leads to the one thing that is wrong, whenever it was found anew. */
export function OneFailure({ fault, onReveal }: { fault: Fault; onReveal: (at: string) => void }) {
  useEffect(() => onReveal(fault.at), [fault, onReveal]);
  return null;
}
