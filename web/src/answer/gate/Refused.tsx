/** Nothing to answer here: the gate is shut, the link is wrong, or there is no such address. */
import { useContext } from "react";
import styled from "styled-components";

import { useSay } from "../../items/words";
import { ConfirmMail } from "./ConfirmMail";
import { Frame, Paper } from "../Frame";
import { LookContext } from "../look";
import { ChangeOwn } from "../saved/OwnEntry";
import { BeginAgain, SignInNeeded } from "./SignIn";
import { WaitingList } from "./WaitingList";

const NAMES: Record<string, string> = {
  shut: "shut",
  link_refused: "link",
  not_found: "none",
  away: "away",
  pass_unknown: "pass_unknown",
  pass_expired: "pass_expired",
  pass_used_up: "pass_used_up",
  pass_link_shut: "pass_link_shut",
  sign_in_needed: "sign_in_needed",
  sign_in_stale: "sign_in_stale",
  sign_in_refused: "sign_in_refused",
  sign_in_away: "sign_in_away",
};

const Words = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

interface RefusedProps {
  code: string;
  detail: string;
  params?: Readonly<Record<string, string>>;
}

/** Why, in the page's own words; the gate says in its own words and heading what it is. */
export function Refused({ code, detail, params = {} }: RefusedProps) {
  const say = useSay();
  const name = NAMES[code] ?? "other";
  const own = name === "shut" || name === "other";
  const heading = params["heading"] ?? say(`${name}_heading`);
  const signsIn = name.startsWith("sign_in");
  const { ask } = useContext(LookContext);
  return (
    <Frame title={say("questionnaire")} state={signsIn ? "open" : "shut"}>
      <Paper>
        <h1>{heading}</h1>
        <Words>{own ? detail : say(`${name}_detail`)}</Words>
        {name === "sign_in_needed" ? <SignInNeeded /> : null}
        {params["waiting"] ? <WaitingList /> : null}
        {params["own"] ? <ChangeOwn /> : null}
        {params["confirm"] ? <ConfirmMail /> : null}
        {params["sign_in"] ? <SignInNeeded /> : null}
        {params["again"] ? <BeginAgain href={params["again"]} /> : null}
        {ask && !signsIn && name !== "none" ? <Words>{say("ask", { address: ask })}</Words> : null}
      </Paper>
    </Frame>
  );
}
