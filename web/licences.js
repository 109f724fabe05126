/** Gathers the licences of the packages that are built into the front end. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";

const modules = new URL("node_modules/", import.meta.url);
const read = (path) => JSON.parse(readFileSync(path, "utf8"));
const TEXT = /^(licen[cs]e|copying|ofl|notice)(\.|-|$)/i;

/** The packages that `names` need, and all that those need. */
function closure(names) {
  const found = new Set();
  const left = [...names];
  while (left.length) {
    const name = left.pop();
    if (found.has(name) || !existsSync(new URL(`${name}/package.json`, modules))) continue;
    found.add(name);
    left.push(...Object.keys(read(new URL(`${name}/package.json`, modules)).dependencies ?? {}));
  }
  return [...found].sort();
}

const { dependencies } = read(new URL("package.json", import.meta.url));
const all = closure(Object.keys(dependencies)).map((name) => {
  const folder = new URL(`${name}/`, modules);
  const { version, license } = read(new URL("package.json", folder));
  const files = readdirSync(folder).filter((file) => TEXT.test(file));
  const text = files.map((file) => readFileSync(new URL(file, folder), "utf8")).join("\n\n");
  return { name, version, licence: license ?? "", text };
});
writeFileSync(new URL("dist/licences.json", import.meta.url), JSON.stringify(all));
