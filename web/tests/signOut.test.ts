/** What is still asked of the server when somebody signs out. */
import { beforeEach, expect, it, vi } from "vitest";

let sent: string[];
let answers: Map<string, (response: Response) => void>;
let gone: string[];

const pathOf = (request: Request) => new URL(request.url).pathname;
const empty = () => new Response("{}", { headers: { "Content-Type": "application/json" } });
const settle = () => new Promise((done) => setTimeout(done, 0));

async function desk() {
  vi.resetModules();
  const { client } = await import("../src/client/client");
  const { signOut } = await import("../src/desk/signOut");
  return { client, signOut };
}

beforeEach(() => {
  sent = [];
  answers = new Map();
  gone = [];
  vi.stubGlobal("window", { location: { assign: (to: string) => gone.push(to) } });
  vi.stubGlobal(
    "Request",
    class extends Request {
      constructor(input: string, init?: RequestInit) {
        super(new URL(input, "http://localhost"), init);
      }
    },
  );
  vi.stubGlobal("fetch", (request: Request) => {
    sent.push(pathOf(request));
    return new Promise((done) => answers.set(pathOf(request), done));
  });
});

it("waits for what is under way, and sends nothing after the end of the session", async () => {
  const { client, signOut } = await desk();
  void client.GET("/api/people");
  await settle();
  const left = signOut();
  void client.GET("/api/office");
  await settle();
  expect(sent).toEqual(["/api/people"]);
  answers.get("/api/people")?.(empty());
  await settle();
  expect(sent).toEqual(["/api/people", "/api/sign-out"]);
  answers.get("/api/sign-out")?.(empty());
  await left;
  await settle();
  expect(gone).toEqual(["/desk"]);
  expect(sent).toEqual(["/api/people", "/api/sign-out"]);
});

it("goes on where signing out failed", async () => {
  const { client, signOut } = await desk();
  const left = signOut();
  await settle();
  void client.GET("/api/office");
  await settle();
  answers.get("/api/sign-out")?.(new Response("{}", { status: 503 }));
  await expect(left).rejects.toThrow();
  await settle();
  expect(gone).toEqual([]);
  expect(sent).toEqual(["/api/sign-out", "/api/office"]);
});
