/** Puts a brotli and a gzip form beside every built script, style and drawing. */
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { brotliCompressSync, gzipSync } from "node:zlib";

const folder = new URL("dist/assets/", import.meta.url);
for (const name of readdirSync(folder).filter((one) => /\.(js|css|svg)$/.test(one))) {
  const whole = readFileSync(new URL(name, folder));
  writeFileSync(new URL(`${name}.br`, folder), brotliCompressSync(whole));
  writeFileSync(new URL(`${name}.gz`, folder), gzipSync(whole, { level: 9 }));
}
