/** A letter by mail as somebody reads it. */
import type { UseMutationResult } from "@tanstack/react-query";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Strip } from "../../ui/Strip";

const Paper = styled.div`
  display: grid;
  gap: 10px;
  border: 1px solid var(--line);
  border-block-start: 0;
  border-radius: 0 0 4px 4px;
  padding: 12px;
  overflow-wrap: anywhere;
  .button {
    display: inline-block;
    padding: 10px 18px;
    border-radius: 4px;
    background: var(--accent);
    color: var(--on-accent);
    text-decoration: none;
  }
  .small {
    font-size: 13px;
  }
  hr {
    width: 100%;
    border: 0;
    border-top: 1px solid var(--line);
  }
`;

const Head = styled.div`
  background: var(--mist);
  padding: 6px 10px;
  font-size: 13.5px;
  overflow-wrap: anywhere;
`;

type Seeing = UseMutationResult<Schema<"SeenLetterOut">, Error, void>;

export function SeenLetter({ seeing }: { seeing: Seeing }) {
  const seen = seeing.data;
  return (
    <>
      <div>
        <Button isDisabled={seeing.isPending} onPress={() => seeing.mutate()}>
          See it as it arrives
        </Button>
      </div>
      {seeing.error ? <Strip tone="wrong">{seeing.error.message}</Strip> : null}
      {seen ? (
        <div>
          <Head>
            To <b>{seen.to}</b>, as {seen.called} reads it
            <br />
            {seen.subject}
          </Head>
          <Paper
            role="region"
            aria-label="The letter as it arrives"
            // Clean HTML, made by the server; nothing in it leads anywhere from here.
            inert
            dangerouslySetInnerHTML={{ __html: seen.html }}
          />
        </div>
      ) : null}
    </>
  );
}
