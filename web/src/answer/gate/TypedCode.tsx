/** The page where one types the code of a letter on paper. */
import { useState } from "react";
import styled from "styled-components";

import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Frame, Paper } from "../Frame";
import { Press } from "./asking";

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

/** `state` says what was wrong with the code that was `typed`. */
export function TypedCode({ params }: { params: Readonly<Record<string, string>> }) {
  const say = useSay();
  const { state = "ask", typed = "", office = "" } = params;
  const [code, setCode] = useState(typed);
  const wrong = WRONG[state];
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
        </Form>
      </Paper>
    </Frame>
  );
}
