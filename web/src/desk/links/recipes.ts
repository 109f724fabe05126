/** The few lines that another program needs, with the secrets of a new key filled in. */
import type { Schema } from "../../client/client";

type Key = Schema<"NewLinkKeyOut">;

export const recipe = ({ id, secret, audience, address }: Key) =>
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

/** Asks whether somebody has answered, by a call that is signed as in Standard Webhooks. */
export const askRecipe = ({ calls, audience, address }: Key) =>
  `# python ask.py W-17     (the key of a contact)
import base64, hashlib, hmac, json, sys, time, urllib.request, uuid

secret = base64.b64decode("${calls.replace("whsec_", "")}")
body = json.dumps({"contact_key": sys.argv[1]}).encode()
id, now = str(uuid.uuid4()), str(int(time.time()))
signed = hmac.digest(secret, b".".join([id.encode(), now.encode(), body]), "sha256")
request = urllib.request.Request("${new URL(`/api/public/${audience}/standing`, address).href}", body, {
    "Content-Type": "application/json",
    "webhook-id": id,
    "webhook-timestamp": now,
    "webhook-signature": "v1," + base64.b64encode(signed).decode(),
})
print(json.load(urllib.request.urlopen(request)))
`;

/** Reads the result that a finish's link onward brings back. */
export const resultRecipe = ({ secret }: Key) =>
  `# pip install joserfc; then: python result.py RESULT     (the parameter result of the address)
import base64, sys, time
from joserfc import jwe, jwt
from joserfc.jwk import OctKey

secret = base64.urlsafe_b64decode("${secret}==")
signing, sealing = OctKey.import_key(secret[:32]), OctKey.import_key(secret[32:])
signed = jwe.decrypt_compact(sys.argv[1], sealing, algorithms=["dir", "A256GCM"]).plaintext
told = jwt.decode(signed.decode(), signing, algorithms=["HS256"]).claims
assert told["exp"] > time.time()     # also check that told["aud"] is you, and told["jti"] is new
print(told)
`;
