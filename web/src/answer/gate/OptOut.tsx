/** The page where one wants no more letters. */
import styled from "styled-components";

import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Frame, Paper } from "../Frame";

const Words = styled.p`
  margin: 10px 0 20px;
`;

const Choice = styled.form`
  button {
    font-size: 17px;
    padding: 10px 24px;
    min-height: 46px;
  }
`;

const NAMES: Record<string, string> = {
  ask: "out",
  done: "out_done",
  back: "out_back",
  unknown: "out_unknown",
};

/** `state` says whether they are asked, out, or back in; `office` is who writes to `email`. */
export function OptOut({ params }: { params: Readonly<Record<string, string>> }) {
  const say = useSay();
  const { state = "unknown", email = "", office = "" } = params;
  const name = NAMES[state] ?? "out_unknown";
  const press = state === "done" ? "back" : "out";
  return (
    <Frame title={office}>
      <Paper>
        <h1>{say(`${name}_heading`)}</h1>
        <Words>{say(`${name}_detail`, { email, office })}</Words>
        {state === "unknown" ? null : (
          <Choice method="post">
            <input type="hidden" name="choice" value={press} />
            <Button type="submit" weight={state === "ask" ? "main" : "plain"}>
              {say(press === "back" ? "out_back" : "out_press")}
            </Button>
          </Choice>
        )}
      </Paper>
    </Frame>
  );
}
