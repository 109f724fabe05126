/** Setting up one-time codes: a QR code for the app, the first code, and the codes for recovery. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Mono } from "../../ui/text";
import { offeredCodes, ownAccount } from "../data";
import { faultAt, otherFault, useDoing } from "../useDoing";
import { Confirm } from "./Confirm";

const Picture = styled.img`
  width: 210px;
  max-width: 100%;
`;

const Codes = styled.ul`
  columns: 2;
  font: 15px var(--mono);
  padding: 10px 14px;
  border: 1px solid var(--line);
  li {
    padding: 3px 0;
  }
`;

/** The codes for recovery, shown this once. */
export function RecoveryCodes({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  const text = codes.join("\r\n");
  return (
    <section aria-label="Codes for recovery" style={{ display: "grid", gap: 14 }}>
      <p>
        Keep these codes where you find them without your phone. Each signs you in once in place of
        a code of the app. They are not shown again.
      </p>
      <Codes>
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </Codes>
      <p style={{ display: "flex", gap: 10, flexWrap: "wrap" }}>
        <a href={`data:text/plain,${encodeURIComponent(text)}`} download="recovery-codes.txt">
          Save as a file
        </a>
        <Button weight="main" onPress={onDone}>
          I have kept them
        </Button>
      </p>
    </section>
  );
}

export function CodesSetup({ onDone }: { onDone: () => void }) {
  const offer = useQuery(offeredCodes);
  const offered = offer.data;
  const [code, setCode] = useState("");
  const taking = useDoing(
    () => got(client.POST("/api/account/codes", { body: { sealed: offered?.sealed ?? "", code } })),
    [ownAccount.queryKey],
  );
  if (taking.data) return <RecoveryCodes codes={taking.data.codes} onDone={onDone} />;
  if (!offered) return <Confirm error={offer.error} onConfirmed={() => void offer.refetch()} />;
  const other = otherFault(taking.error, ["code"]);
  return (
    <form
      style={{ display: "grid", gap: 14, justifyItems: "start" }}
      onSubmit={(event) => {
        event.preventDefault();
        taking.mutate();
      }}
    >
      {other ? <Confirm error={taking.error} onConfirmed={() => taking.reset()} /> : null}
      <p>Scan this with an app that shows one-time codes.</p>
      <Picture
        alt="QR code with the secret below"
        src={`data:image/svg+xml,${encodeURIComponent(offered.picture)}`}
      />
      <p>
        Or type it in: <Mono>{offered.secret.replace(/(.{4})/g, "$1 ")}</Mono>
      </p>
      <Field
        label="The code that the app shows now"
        autoComplete="one-time-code"
        value={code}
        onChange={setCode}
        error={faultAt(taking.error, "code")}
        isRequired
      />
      <Button weight="main" type="submit" isDisabled={!code.trim() || taking.isPending}>
        Set up
      </Button>
    </form>
  );
}
