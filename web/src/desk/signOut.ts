/** Signing out, after which nothing more is asked in the name of who has left. */
import { client, got } from "../client/client";

/** Milliseconds for which signing out waits for what is still being answered. */
const PATIENCE = 3000;

const OUT = "/api/sign-out";

let underWay = 0;
let allAnswered = () => {};
let leaving: Promise<undefined> | undefined;

const answered = () => {
  underWay -= 1;
  if (!underWay) allAnswered();
};

/** Views look again and again for what is new: a look that reached the server behind the end of the
 * session would only be refused. They wait while one signs out, and go on where that failed. */
client.use({
  onRequest: async ({ schemaPath }) => {
    if (schemaPath !== OUT) await leaving;
    underWay += 1;
  },
  onResponse: answered,
  onError: answered,
});

/** Ends the session and shows signing in. Throws the ApiError that it failed with. */
export async function signOut(): Promise<void> {
  let stay: (value: undefined) => void = () => {};
  leaving = new Promise((done) => (stay = done));
  try {
    await Promise.race([
      new Promise<void>((done) => (underWay ? (allAnswered = done) : done())),
      new Promise((done) => setTimeout(done, PATIENCE)),
    ]);
    await got(client.POST(OUT));
  } catch (error) {
    leaving = undefined;
    stay(undefined);
    throw error;
  }
  window.location.assign("/desk");
}
