// The tests that a change reaches, the nearest first, as many as a minute has room for. Usage: node scripts/reached.mjs FILE ...
// Prints their paths; on standard error, what is left to npm test. How long each takes is known from the last npm test or quick.
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const FOLDERS = [
  "packages/core/src",
  "packages/contract/src",
  "packages/intake/src",
  "apps/web/src",
  "demo/src",
];
/** Seconds of tests, on both cores, beside those of types and lint. */
const ROOM = 42;
const CORES = 2;
/** Seconds of a test that was not timed yet; and a file of no test of its own costs so much to be loaded. */
const UNKNOWN = 5;

const walk = (dir) =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? walk(join(dir, e.name)) : /\.tsx?$/.test(e.name) ? [join(dir, e.name)] : [],
  );
const files = FOLDERS.flatMap((folder) => walk(join(root, folder)));
const known = new Set(files);

function target(from, spec) {
  const at = spec.startsWith(".")
    ? resolve(dirname(from), spec)
    : spec.replace(/^@hardline\/([a-z]+)(?:\/(.*))?$/, (_, name, path) =>
        join(root, name === "demo" ? "demo" : `packages/${name}`, "src", path ?? "index"),
      );
  return [at, `${at}.ts`, `${at}.tsx`].find((f) => known.has(f));
}

/** Who imports each file. */
const importers = new Map();
for (const file of files)
  for (const [, spec] of readFileSync(file, "utf8").matchAll(
    /(?:from|import\()\s*"((?:\.|@hardline\/)[^"]*)"/g,
  )) {
    const to = target(file, spec);
    if (to) importers.set(to, [...(importers.get(to) ?? []), file]);
  }

const isTest = (file) => /\.test\.tsx?$/.test(file);
const distance = new Map();
let edge = process.argv
  .slice(2)
  .map((f) => resolve(root, f))
  .filter((f) => known.has(f));
for (let d = 0; edge.length > 0; d++) {
  edge = edge.filter((f) => !distance.has(f));
  for (const file of edge) distance.set(file, d);
  edge = edge.flatMap((f) => importers.get(f) ?? []);
}

const seconds = new Map();
for (const report of [".local/jest.json", ".local/quick.json"]
  .map((p) => join(root, p))
  .filter(existsSync)
  .sort(byAge))
  for (const { name, startTime, endTime } of JSON.parse(readFileSync(report, "utf8")).testResults)
    if (endTime > startTime) seconds.set(name, (endTime - startTime) / 1000);
function byAge(a, b) {
  return statSync(a).mtimeMs - statSync(b).mtimeMs;
}

const reached = [...distance].filter(([f]) => isTest(f)).sort((a, b) => a[1] - b[1]);
const taken = [];
const left = [];
let sum = 0;
for (const [file] of reached) {
  const own = seconds.get(file) ?? UNKNOWN;
  // One that is longer than the room would be the last to end, whatever else is left out.
  if (own > ROOM / 2 || (sum + own) / CORES > ROOM) left.push(file);
  else {
    taken.push(file);
    sum += own;
  }
}
for (const file of taken) console.log(relative(root, file));
if (left.length > 0)
  console.error(
    `${taken.length} of ${reached.length} tests that the change reaches; left to npm test: ${left
      .map((f) => relative(root, f).replace(/^.*\//, ""))
      .join(", ")}`,
  );
