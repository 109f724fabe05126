/** Where all places are taken: leave an address for one that comes free. */
import { useState, type SubmitEvent } from "react";
import styled from "styled-components";

import { ApiError, client, got } from "../client/client";
import { useSay } from "../items/words";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { address } from "./address";

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

export function WaitingList() {
  const say = useSay();
  const [email, setEmail] = useState("");
  const [wrong, setWrong] = useState("");
  const [place, setPlace] = useState(0);
  const [busy, setBusy] = useState(false);
  const join = async (event: SubmitEvent) => {
    event.preventDefault();
    setWrong("");
    setBusy(true);
    try {
      const body = { email, language: document.documentElement.lang };
      const params = { path: { address } };
      const found = await got(client.POST("/api/public/{address}/waiting", { params, body }));
      setPlace(found.place);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setWrong(error.message);
    } finally {
      setBusy(false);
    }
  };
  if (place) return <p role="status">{say("waiting_on", { place, email })}</p>;
  return (
    <Form onSubmit={(event) => void join(event)} noValidate>
      <Field
        type="email"
        autoComplete="email"
        label={say("later_email")}
        help={say("waiting_offer")}
        error={wrong}
        value={email}
        onChange={setEmail}
      />
      <Button weight="main" type="submit" isDisabled={busy}>
        {say("waiting_send")}
      </Button>
    </Form>
  );
}
