/** Making and using passkeys: what the browser does between two calls of the server. */
import { client, got, type Schema } from "../../client/client";

/** Whether this browser can do it (W3C Web Authentication, level 3). */
export const CAN =
  typeof PublicKeyCredential !== "undefined" &&
  "parseCreationOptionsFromJSON" in PublicKeyCredential;

class NotDone extends Error {}

function told(error: unknown): Error {
  if (error instanceof DOMException && error.name === "InvalidStateError") {
    return new NotDone("This device has a passkey for your account already.");
  }
  if (error instanceof DOMException) {
    return new NotDone("No passkey was used: it was cancelled, or it took too long.");
  }
  return error as Error;
}

type Json = Record<string, never>;

/** Sign in with a passkey. */
export async function signInByPasskey(): Promise<Schema<"Me">> {
  const asked = await got(client.POST("/api/sign-in/passkey/options"));
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(
    asked.options as unknown as PublicKeyCredentialRequestOptionsJSON,
  );
  let found: Credential | null;
  try {
    found = await navigator.credentials.get({ publicKey });
  } catch (error) {
    throw told(error);
  }
  const credential = (found as PublicKeyCredential).toJSON() as unknown as Json;
  return got(client.POST("/api/sign-in/passkey", { body: { ticket: asked.ticket, credential } }));
}

/** Make a passkey for one's own account. */
export async function makePasskey(name: string): Promise<Schema<"PasskeyOut">> {
  const asked = await got(client.POST("/api/account/passkeys/options"));
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(
    asked.options as unknown as PublicKeyCredentialCreationOptionsJSON,
  );
  let made: Credential | null;
  try {
    made = await navigator.credentials.create({ publicKey });
  } catch (error) {
    throw told(error);
  }
  const credential = (made as PublicKeyCredential).toJSON() as unknown as Json;
  const body = { ticket: asked.ticket, credential, name };
  return got(client.POST("/api/account/passkeys", { body }));
}
