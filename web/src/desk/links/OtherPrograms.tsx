/** Links that other programs make: keys, and the few lines that it takes. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";

import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Lines } from "../../ui/Lines";
import { Strip } from "../../ui/Strip";
import { Mono } from "../../ui/text";
import { usePlaceId } from "../shell/Place";
import { Loaded } from "../shell/states";
import { useDoing } from "../useDoing";
import { whenAmid } from "../when";
import { askRecipe, recipe, resultRecipe } from "./recipes";
import { endLinkKey, linkKeys, makeLinkKey } from "./data";

const Code = styled.textarea`
  width: 100%;
  font: 13px/1.45 var(--mono);
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
  padding: 8px 10px;
  resize: vertical;
  white-space: pre;
`;

function Keys({ mayWrite }: { mayWrite: boolean }) {
  const id = usePlaceId();
  const query = useQuery(linkKeys(id));
  const [made, setMade] = useState<Schema<"NewLinkKeyOut"> | null>(null);
  const making = useDoing(() => makeLinkKey(id), [linkKeys(id).queryKey], setMade);
  const ending = useDoing((keyId: string) => endLinkKey(id, keyId), [linkKeys(id).queryKey]);
  const failed = making.error ?? ending.error;
  return (
    <Loaded query={query}>
      {(keys) => (
        <>
          {keys.length ? (
            <Lines>
              {keys.map((key) => (
                <li key={key.id}>
                  Key <Mono>{key.id}</Mono> made {whenAmid(key.made)}
                  {mayWrite ? (
                    <Button
                      weight="word"
                      aria-label={`End the key ${key.id}`}
                      onPress={() => ending.mutate(key.id)}
                    >
                      End it and its links
                    </Button>
                  ) : null}
                </li>
              ))}
            </Lines>
          ) : (
            <p>There is no key yet.</p>
          )}
          {failed ? <Strip tone="wrong">{failed.message}</Strip> : null}
          {mayWrite ? (
            <div>
              <Button onPress={() => making.mutate()}>Make a key</Button>
            </div>
          ) : null}
          {made ? (
            <>
              <Strip>
                The secret of the key {made.id} is shown this once. Keep it where you keep
                passwords.
              </Strip>
              <Code
                readOnly
                rows={20}
                aria-label={`How to make links with the key ${made.id}`}
                value={recipe(made)}
                spellCheck={false}
              />
              <p>
                Whether somebody has answered: not started, started or done, when, by which entry,
                and the link that leads on. Calls are signed as in Standard Webhooks; a pass, a mail
                address or who signed in will do as well (<Mono>pass</Mono>,{" "}
                <Mono>contact_email</Mono>, <Mono>issuer</Mono> with <Mono>subject</Mono>).
              </p>
              <Code
                readOnly
                rows={14}
                aria-label={`How to ask with the key ${made.id}`}
                value={askRecipe(made)}
                spellCheck={false}
              />
              <p>
                What a link onward tells your program, where its finish says so: the entry, how it
                ended, what it is about and who it was. Visitors cannot read it.
              </p>
              <Code
                readOnly
                rows={12}
                aria-label={`How to read results with the key ${made.id}`}
                value={resultRecipe(made)}
                spellCheck={false}
              />
            </>
          ) : null}
        </>
      )}
    </Loaded>
  );
}

export function OtherPrograms({ mayWrite }: { mayWrite: boolean }) {
  return (
    <>
      <h2>Other programs</h2>
      <p>
        A mail merge or a database of your own can make links with a key of this questionnaire. What
        they carry is signed and encrypted (JSON Web Tokens, RFC 7519): whoever holds such a link
        can neither read nor change it. From a spreadsheet: save it as CSV, run the lines below, and
        open what comes out.
      </p>
      <Keys mayWrite={mayWrite} />
    </>
  );
}
