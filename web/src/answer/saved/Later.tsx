/** Below the page: whether answers are saved, going on elsewhere, starting over. */
import { useState, type SubmitEvent } from "react";
import styled from "styled-components";

import { ApiError } from "../../client/client";
import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { isTrial } from "../address";
import { clearTabDraft } from "./tabDraft";
import { forgetStarted, sendLetter } from "./savedEntry";
import type { Saving } from "./useSaving";

const Foot = styled.footer`
  color: var(--ink-2);
  font-size: 15px;
  margin-top: 12px;
  display: grid;
  gap: 4px;
  @media print {
    display: none;
  }
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: end;
  button {
    min-height: 44px;
  }
`;

const Sheet = styled.form`
  border: 1px solid var(--line-2);
  border-radius: 4px;
  background: var(--paper);
  padding: 12px 16px;
  display: grid;
  gap: 8px;
`;

function Letter({ flush }: { flush: () => Promise<void> }) {
  const say = useSay();
  const [email, setEmail] = useState("");
  const [wrong, setWrong] = useState("");
  const [sent, setSent] = useState("");
  const send = async (event: SubmitEvent) => {
    event.preventDefault();
    setWrong("");
    setSent("");
    try {
      await flush();
      await sendLetter(email);
      setSent(email);
    } catch (error) {
      setWrong(error instanceof ApiError ? error.message : say("not_saved"));
    }
  };
  return (
    <Sheet onSubmit={(event) => void send(event)} noValidate>
      <Field
        label={say("later_email")}
        help={say("later_help")}
        type="email"
        inputMode="email"
        autoComplete="email"
        dir="ltr"
        value={email}
        error={wrong || undefined}
        onChange={setEmail}
        autoFocus
      />
      <Row>
        <Button type="submit">{say("later_send")}</Button>
        <span role="status">{sent ? say("later_sent", { email: sent }) : ""}</span>
      </Row>
    </Sheet>
  );
}

/** Unavailable with everything, on the server and on this device; the page begins anew. */
async function startOver(stop: () => void): Promise<void> {
  stop();
  await forgetStarted();
  clearTabDraft();
  window.location.reload();
}

interface LaterProps {
  state: Saving;
  /** Saves what is not saved yet. */
  flush: () => Promise<void>;
  /** Saves nothing more. */
  stop: () => void;
}

/** In a trial there is nothing to save. */
export function Later(props: LaterProps) {
  return isTrial ? <Foot>Trial of the draft. Nothing is stored.</Foot> : <Saved {...props} />;
}

function Saved({ state, flush, stop }: LaterProps) {
  const say = useSay();
  const [asked, setAsked] = useState<"letter" | "over" | null>(null);
  const toggle = (what: "letter" | "over") => setAsked(asked === what ? null : what);
  return (
    <Foot>
      <p>{say(state === "nothing" ? "nothing_saved" : state)}</p>
      {state === "nothing" ? null : (
        <Row>
          <Button weight="word" aria-expanded={asked === "letter"} onPress={() => toggle("letter")}>
            {say("later")}
          </Button>
          <Button weight="word" aria-expanded={asked === "over"} onPress={() => toggle("over")}>
            {say("start_over")}
          </Button>
          <Button weight="word" onPress={() => window.print()}>
            {say("print")}
          </Button>
        </Row>
      )}
      {asked === "letter" ? <Letter flush={flush} /> : null}
      {asked === "over" ? (
        <Sheet
          onSubmit={(event) => {
            event.preventDefault();
            void startOver(stop);
          }}
        >
          <p>{say("start_over_sure")}</p>
          <Row>
            <Button type="submit">{say("delete_answers")}</Button>
            <Button onPress={() => setAsked(null)}>{say("keep_answers")}</Button>
          </Row>
        </Sheet>
      ) : null}
    </Foot>
  );
}
