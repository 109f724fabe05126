/** A visitor leaves a mail address that something is sent to. */
import { useState, type SubmitEvent } from "react";
import styled from "styled-components";

import { ApiError } from "../../client/client";
import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";

const Form = styled.form`
  margin-top: 18px;
  display: grid;
  gap: 12px;
  justify-items: start;
  > :first-child {
    width: 100%;
  }
  button {
    font-size: 17px;
    padding: 10px 24px;
    min-height: 46px;
  }
`;

const Done = styled.p`
  margin-top: 14px;
  font-weight: 600;
`;

interface MailFormProps {
  offer: string;
  send: string;
  /** Does it, and says what was done. */
  onSend: (email: string) => Promise<string>;
}

export function MailForm({ offer, send, onSend }: MailFormProps) {
  const say = useSay();
  const [email, setEmail] = useState("");
  const [wrong, setWrong] = useState("");
  const [done, setDone] = useState("");
  const [busy, setBusy] = useState(false);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    setWrong("");
    setBusy(true);
    try {
      setDone(await onSend(email));
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setWrong(error.message);
    } finally {
      setBusy(false);
    }
  };
  if (done) return <Done role="status">{done}</Done>;
  return (
    <Form onSubmit={(event) => void submit(event)} noValidate>
      <Field
        type="email"
        autoComplete="email"
        label={say("later_email")}
        help={offer}
        error={wrong}
        value={email}
        onChange={setEmail}
      />
      <Button weight="main" type="submit" isDisabled={busy}>
        {send}
      </Button>
    </Form>
  );
}
