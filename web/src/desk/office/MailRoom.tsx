/** The simulated mail server's room: every letter that has been sent lies here. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Quiet } from "../../ui/text";
import { letters } from "../data";
import { MailRules } from "./MailRules";
import { RoomHead } from "../shell/Office";
import { Empty, Loaded } from "../shell/states";
import { when, whole } from "../when";

type Letter = Schema<"LetterOut">;

const Split = styled.div`
  display: grid;
  grid-template-columns: minmax(240px, 360px) minmax(0, 1fr);
  border-top: 1px solid var(--line);
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const List = styled.ul`
  border-inline-end: 1px solid var(--line);
  max-height: 72vh;
  overflow: auto;
  button {
    display: grid;
    gap: 1px;
    width: 100%;
    text-align: start;
    background: none;
    border: 0;
    border-bottom: 1px solid var(--line);
    padding: 9px 12px;
    cursor: pointer;
    overflow-wrap: anywhere;
  }
  button:focus-visible {
    outline-offset: -3px;
  }
  button[aria-current="true"] {
    background: var(--accent-soft);
  }
  b {
    font-weight: 600;
  }
`;

const Paper = styled.article`
  padding: 16px clamp(12px, 2vw, 24px);
  overflow-wrap: anywhere;
  h2 {
    font-size: 19px;
    margin-bottom: 8px;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 12px;
    padding-bottom: 12px;
    border-bottom: 1px solid var(--line);
    margin-bottom: 12px;
  }
  dt {
    color: var(--ink-3);
  }
  pre {
    font: inherit;
    white-space: pre-wrap;
    margin: 0;
  }
`;

function Read({ letter }: { letter: Letter }) {
  return (
    <Paper aria-label="Letter">
      <h2>{letter.subject}</h2>
      <dl>
        <dt>To</dt>
        <dd>{letter.to}</dd>
        <dt>From</dt>
        <dd>{letter.sender}</dd>
        <dt>Arrived</dt>
        <dd>{whole(letter.at)}</dd>
      </dl>
      <pre>{letter.body}</pre>
    </Paper>
  );
}

export function MailRoom() {
  const query = useQuery(letters);
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <>
      <RoomHead>
        <h1>Mail room</h1>
        <Quiet>A stand-in for the mail server. Nothing here leaves this machine.</Quiet>
      </RoomHead>
      <MailRules />
      <Loaded query={query}>
        {(found) => {
          const letter = found.find(({ id }) => id === chosen) ?? found[0];
          if (!letter) {
            return (
              <Empty title="No letters yet">
                <p>A notice that a dispatch rule sends lands here a moment later.</p>
              </Empty>
            );
          }
          return (
            <Split>
              <List aria-label="Letters">
                {found.map((one) => (
                  <li key={one.id}>
                    <button
                      type="button"
                      aria-current={one.id === letter.id}
                      onClick={() => setChosen(one.id)}
                    >
                      <b>{one.subject}</b>
                      <span>{one.to}</span>
                      <Quiet>{when(one.at)}</Quiet>
                    </button>
                  </li>
                ))}
              </List>
              <Read letter={letter} />
            </Split>
          );
        }}
      </Loaded>
    </>
  );
}
