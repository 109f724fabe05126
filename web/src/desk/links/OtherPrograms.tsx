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
import { when } from "../when";
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

const recipe = ({ id, secret, audience, address }: Schema<"NewLinkKeyOut">) =>
  `# pip install joserfc; then: python links.py < people.csv > people-with-links.csv
import base64, csv, sys, time
from joserfc import jwe, jwt
from joserfc.jwk import OctKey

secret = base64.urlsafe_b64decode("${secret}==")
signing, sealing = OctKey.import_key(secret[:32]), OctKey.import_key(secret[32:])

def link(values, days=60):
    claims = {"aud": "${audience}", "exp": int(time.time()) + days * 86400, "values": values}
    signed = jwt.encode({"alg": "HS256"}, claims, signing)
    header = {"alg": "dir", "enc": "A256GCM", "kid": "${id}", "cty": "JWT"}
    return "${address}" + jwe.encrypt_compact(header, signed, sealing)

# The columns are named as what they bring, such as district or name.given.
rows = csv.DictReader(sys.stdin)
out = csv.DictWriter(sys.stdout, [*rows.fieldnames, "link"])
out.writeheader()
for row in rows:
    out.writerow({**row, "link": link({key: text for key, text in row.items() if text})})
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
                  Key <Mono>{key.id}</Mono> made {when(key.made)}
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
      <h2>Links of other programs</h2>
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
