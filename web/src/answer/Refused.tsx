/** Nothing to answer here: the gate is shut, the link is wrong, or there is no such address. */
import styled from "styled-components";

import { useSay } from "../items/words";
import { Frame, Paper } from "./Frame";

const NAMES: Record<string, string> = {
  shut: "shut",
  link_refused: "link",
  not_found: "none",
  away: "away",
};

const Words = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

/** Why, in the page's own words; a shut gate has words of its own. */
export function Refused({ code, detail }: { code: string; detail: string }) {
  const say = useSay();
  const name = NAMES[code] ?? "other";
  const own = name === "shut" || name === "other";
  return (
    <Frame title={say("questionnaire")} state="shut">
      <Paper>
        <h1>{say(`${name}_heading`)}</h1>
        <Words>{own ? detail : say(`${name}_detail`)}</Words>
      </Paper>
    </Frame>
  );
}
