/** What the finish says, and where one may go on. */
import { useContext, useEffect, useRef, useState } from "react";
import styled from "styled-components";

import { ApiError, client, got } from "../client/client";
import { Button } from "../ui/Button";
import { Strip } from "../ui/Strip";
import { address } from "./address";
import { arrivalInUse } from "./arrival";
import { StaffContext, StaffWays } from "./ByStaff";
import { Frame, Paper } from "./Frame";
import { OwnLetter } from "./saved/OwnEntry";
import type { Finish } from "./visit";

const Message = styled.p`
  margin-top: 10px;
  white-space: pre-line;
`;

const Onward = styled.div`
  margin-top: 18px;
  display: grid;
  gap: 10px;
  justify-items: start;
`;

/** Go on in another questionnaire: the token that lets one in there once is sent in the body of a
 * form, and stands in no address. */
async function goOn(submission: string): Promise<void> {
  const { action, token } = await got(
    client.POST("/api/public/{address}/hand-offs", {
      params: { path: { address }, header: { "idempotency-key": submission } },
      body: { arrival: arrivalInUse() },
    }),
  );
  const form = document.createElement("form");
  form.method = "post";
  form.action = action;
  const field = document.createElement("input");
  Object.assign(field, { type: "hidden", name: "token", value: token });
  form.append(field);
  document.body.append(form);
  form.submit();
  form.remove();
}

function GoOn({ label, submission }: { label: string; submission: string }) {
  const [trouble, setTrouble] = useState("");
  return (
    <Onward>
      <Button
        weight="main"
        onPress={() => {
          setTrouble("");
          goOn(submission).catch((error: unknown) =>
            setTrouble(error instanceof ApiError ? error.message : String(error)),
          );
        }}
      >
        {label}
      </Button>
      {trouble ? <Strip tone="wrong">{trouble}</Strip> : null}
    </Onward>
  );
}

interface DoneProps {
  title: string;
  finish: Finish;
  submission: string;
}

export function Done({ title, finish, submission }: DoneProps) {
  const heading = useRef<HTMLHeadingElement>(null);
  const staff = useContext(StaffContext);
  useEffect(() => heading.current?.focus(), []);
  return (
    <Frame title={title} progress={1}>
      <Paper>
        <h1 ref={heading} tabIndex={-1}>
          {finish.heading}
        </h1>
        <Message>{finish.message}</Message>
        {finish.onward ? (
          <p>
            <a href={finish.onward.address} rel="noreferrer">
              {finish.onward.label}
            </a>
          </p>
        ) : null}
        <StaffWays />
        {finish.changes && submission && !staff ? <OwnLetter submission={submission} /> : null}
        {finish.continues && submission ? (
          <GoOn label={finish.continues} submission={submission} />
        ) : null}
      </Paper>
    </Frame>
  );
}
