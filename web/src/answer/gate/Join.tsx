/** The page where one says yes to a letter that asks whether one wants to be on a contact list. */
import styled from "styled-components";

import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Frame, Paper } from "../Frame";
import { Press, Words } from "./asking";

const Quoted = styled.blockquote`
  margin: 0 0 20px;
  padding-inline-start: 14px;
  border-inline-start: 3px solid var(--line-2);
  overflow-wrap: anywhere;
`;

const HEADINGS: Record<string, string> = { ask: "join", done: "join_done", out: "join_out" };

/** `state` says whether they are asked, have said yes, or want no letters by now; `office` is who
 * would write to `email`, because of what was answered in the questionnaire `title`. */
export function Join({ params }: { params: Readonly<Record<string, string>> }) {
  const say = useSay();
  const { state = "", email = "", office = "", title = "", question = "", answer = "" } = params;
  const name = HEADINGS[state] ?? "join_unknown";
  const asks = state === "ask";
  return (
    <Frame title={office}>
      <Paper>
        <h1>{say(`${name}_heading`, { office })}</h1>
        <Words role={asks ? undefined : "status"}>
          {say(`${name}_detail`, { email, office, title })}
        </Words>
        {asks ? (
          <>
            <Quoted>
              <p dir="auto">{question}</p>
              <p dir="auto">
                <b>{answer}</b>
              </p>
            </Quoted>
            <Press method="post">
              <Button type="submit" weight="main">
                {say("join_press")}
              </Button>
            </Press>
          </>
        ) : null}
      </Paper>
    </Frame>
  );
}
