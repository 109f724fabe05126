/** The ways in, one under the other, each a stop on a line that ends at the gate. */
import { Link } from "@tanstack/react-router";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Arm, type ArmState } from "../../ui/Arm";
import { useMe } from "../shell/me";
import { usePlaceId } from "../shell/Place";
import { onDay } from "../when";

export type Ways = Schema<"WaysOut">;
export type Named = Ways["named"][number];
export type Batch = Ways["batches"][number];

const Column = styled.nav`
  padding: 20px 0 24px 18px;
  background: var(--mist);
  h2 {
    font-size: 20px;
    margin-bottom: 10px;
  }
`;

const Stops = styled.ol`
  position: relative;
`;

const Stop = styled.li`
  position: relative;
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr) auto;
  gap: 0 4px;
  padding: 9px 14px 9px 0;
  border-start-start-radius: 4px;
  border-end-start-radius: 4px;
  &::before {
    content: "";
    position: absolute;
    inset-inline-start: 14px;
    top: 0;
    bottom: 0;
    width: 2px;
    background: var(--accent-mid);
  }
  &:first-child::before {
    top: 22px;
  }
  &[data-now] {
    background: var(--paper);
  }
  i {
    position: relative;
    width: 12px;
    height: 12px;
    margin: 5px 0 0 9px;
    border: 2px solid var(--accent-mid);
    border-radius: 50%;
    background: var(--mist);
  }
  &[data-now] i {
    background: var(--accent);
    border-color: var(--accent);
  }
  a {
    color: var(--ink);
    font-weight: 600;
    text-decoration: none;
    overflow-wrap: anywhere;
  }
  a::after {
    content: "";
    position: absolute;
    inset: 0;
  }
  a:hover {
    text-decoration: underline;
  }
  &[data-shut] a {
    text-decoration: line-through;
    color: var(--ink-2);
  }
  small {
    grid-column: 2 / 4;
    font-size: 13px;
    color: var(--ink-2);
  }
  em {
    font-style: normal;
    color: var(--ink-2);
  }
`;

const End = styled.p`
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 0 0 6px;
  color: var(--accent);
  font-weight: 600;
  span {
    color: var(--ink);
  }
`;

const Adding = styled.p`
  padding: 14px 14px 0 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
`;

const EXACT = { exact: true, includeSearch: true, explicitUndefined: true };

interface StopProps {
  way: string;
  now: string;
  name: string;
  about: string;
  count: string;
  shut?: boolean;
}

function OneStop({ way, now, name, about, count, shut }: StopProps) {
  const id = usePlaceId();
  return (
    <Stop data-now={way === now || undefined} data-shut={shut || undefined}>
      <i aria-hidden="true" />
      <Link to="/q/$id/links" params={{ id }} search={way ? { way } : {}} activeOptions={EXACT}>
        {name}
      </Link>
      <em title="What came by it">{count}</em>
      <small>{about}</small>
    </Stop>
  );
}

function aboutNamed(link: Named): string {
  if (link.shut) return `shut on ${onDay(link.shut)}`;
  return link.values.length ? "a link with values of its own" : "a link with a name of its own";
}

function aboutBatch(batch: Batch): string {
  const revoked = batch.passes - batch.live;
  const parts = [
    batch.passes === 1 ? "a pass" : "a pass a row",
    revoked ? `${revoked} revoked` : "",
    batch.expires ? `until ${onDay(batch.expires)}` : "",
  ];
  return parts.filter(Boolean).join(", ");
}

function aboutLetter({ waiting, sent }: Schema<"MailingOut">): string {
  return waiting ? `a letter, ${sent} sent, ${waiting} waiting` : `a letter, ${sent} sent`;
}

const usedOf = (ways: Ways, batchId: string | null): number =>
  ways.batches.find(({ id }) => id === batchId)?.used ?? 0;

interface WaysProps {
  ways: Ways;
  letters: readonly Schema<"MailingOut">[];
  now: string;
  gate: ArmState;
  mayWrite: boolean;
}

export function WaysList({ ways, letters, now, gate, mayWrite }: WaysProps) {
  const id = usePlaceId();
  const reaches = useMe().rights.includes("reach");
  const lettered = new Set(letters.map(({ batch_id: batch }) => batch));
  return (
    <Column aria-labelledby="ways-in">
      <h2 id="ways-in">Ways in</h2>
      <Stops>
        <OneStop
          way=""
          now={now}
          name="Public address"
          about="anyone who has it"
          count={String(ways.plain)}
        />
        {ways.named.map((link) => (
          <OneStop
            key={link.id}
            way={link.id}
            now={now}
            name={link.name}
            about={aboutNamed(link)}
            count={String(link.entries)}
            shut={Boolean(link.shut)}
          />
        ))}
        {letters.map((letter) => (
          <OneStop
            key={letter.id}
            way={letter.id}
            now={now}
            name={letter.name}
            about={aboutLetter(letter)}
            count={`${usedOf(ways, letter.batch_id)} of ${letter.sent}`}
          />
        ))}
        {ways.batches
          .filter(({ id: batch }) => !lettered.has(batch) || batch === now)
          .map((batch) => (
            <OneStop
              key={batch.id}
              way={batch.id}
              now={now}
              name={batch.name}
              about={aboutBatch(batch)}
              count={`${batch.used} of ${batch.passes}`}
            />
          ))}
      </Stops>
      <End>
        <Arm state={gate} size={24} />
        <span>{gate === "open" ? "the gate, open" : "the gate, shut"}</span>
      </End>
      <Adding>
        <Link to="/q/$id/links" params={{ id }} search={{ way: "on" }} data-now={now === "on"}>
          Ways on, and other sites
        </Link>
        <Link to="/q/$id/links" params={{ id }} search={{ way: "keys" }} data-now={now === "keys"}>
          Other programs
        </Link>
      </Adding>
      {mayWrite ? (
        <Adding>
          <Link to="/q/$id/links" params={{ id }} search={{ way: "new-link" }}>
            Add a named link
          </Link>
          <Link to="/q/$id/links" params={{ id }} search={{ way: "new-passes" }}>
            Make passes
          </Link>
          {reaches ? (
            <Link to="/q/$id/links" params={{ id }} search={{ way: "new-letter" }}>
              Write a letter
            </Link>
          ) : null}
        </Adding>
      ) : null}
    </Column>
  );
}
