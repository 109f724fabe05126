/** Nothing to answer here: the gate is shut, the link is wrong, or there is no such address. */
import styled from "styled-components";

import { Frame, Paper } from "./Frame";

const HEADINGS: Record<string, string> = {
  shut: "Closed at the moment",
  link_refused: "This link cannot be used",
  not_found: "There is nothing at this address",
  away: "Not there for the moment",
};

const Words = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

export function Refused({ code, detail }: { code: string; detail: string }) {
  return (
    <Frame title="Questionnaire" state="shut">
      <Paper>
        <h1>{HEADINGS[code] ?? "This page cannot be shown"}</h1>
        <Words>{detail}</Words>
      </Paper>
    </Frame>
  );
}
