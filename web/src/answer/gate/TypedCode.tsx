/** The page where one types the code of a letter on paper. */
import { useState } from "react";
import styled from "styled-components";

import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Frame, Paper } from "../Frame";
import { Press, Words } from "./asking";

const Form = styled(Press)`
  margin-top: 18px;
  gap: 16px;
  input {
    font-size: 22px;
    letter-spacing: 0.12em;
    text-transform: uppercase;
    max-width: 12em;
  }
`;

const WRONG: Record<string, string> = { unknown: "code_unknown", slow: "code_slow" };

/** That no more letters are written to whoever is `called` so, or some again. */
function Told({ params }: { params: Readonly<Record<string, string>> }) {
  const say = useSay();
  const { state = "out", typed = "", called = "", office = "" } = params;
  return (
    <Frame title={office}>
      <Paper>
        <h1>{say(`code_${state}_heading`)}</h1>
        <Words role="status">{say(`code_${state}_detail`, { office, called })}</Words>
        {state === "out" ? (
          <Press method="post">
            <input type="hidden" name="code" value={typed} />
            <Button type="submit" name="wish" value="back">
              {say("out_back")}
            </Button>
          </Press>
        ) : null}
      </Paper>
    </Frame>
  );
}

/** `state` says what was wrong with the code that was `typed`. */
export function TypedCode({ params }: { params: Readonly<Record<string, string>> }) {
  const say = useSay();
  const { state = "ask", typed = "", office = "" } = params;
  const [code, setCode] = useState(typed);
  const wrong = WRONG[state];
  if (state === "out" || state === "back") return <Told params={params} />;
  return (
    <Frame title={office}>
      <Paper>
        <h1>{say("code_heading")}</h1>
        <Form method="post">
          <Field
            label={say("code_label")}
            help={say("code_help")}
            name="code"
            autoComplete="off"
            value={code}
            maxLength={60}
            error={wrong ? say(wrong) : undefined}
            onChange={setCode}
          />
          <Button weight="main" type="submit">
            {say("code_press")}
          </Button>
          <p>{say("code_out")}</p>
          <Button type="submit" name="wish" value="out">
            {say("code_out_press")}
          </Button>
        </Form>
      </Paper>
    </Frame>
  );
}
