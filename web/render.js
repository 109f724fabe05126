/** Draws pages for the server: a line of JSON in, a line of JSON out, one after the other. */
import { createInterface } from "node:readline";

import { draw } from "./src/answer/draw.tsx";

for await (const line of createInterface({ input: process.stdin })) {
  let drawn;
  try {
    drawn = draw(JSON.parse(line));
  } catch (error) {
    drawn = { failed: error.name };
  }
  process.stdout.write(`${JSON.stringify(drawn)}\n`);
}
