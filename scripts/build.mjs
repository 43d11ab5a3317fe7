// Builds what is stale: every TypeScript package for Node with swc, the web application with Vite.
// Usage: node scripts/build.mjs [--node] [--start]
//   --node leaves the web application out, --start whatever only developers run
import { transformFile } from "@swc/core";
import { execFileSync, spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { basename, dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const nodePackages = [
  "packages/core",
  "packages/fonts",
  "packages/contract",
  "packages/intake",
  "demo",
  "apps/server",
  "apps/cli",
  "bench",
  "e2e",
];
const developers = ["apps/cli", "bench", "e2e"];

const walk = (dir) =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory()
      ? /^(dist|node_modules|\.local)$/.test(e.name)
        ? []
        : walk(join(dir, e.name))
      : [join(dir, e.name)],
  );
const newest = (files) => Math.max(0, ...files.map((f) => statSync(f).mtimeMs));
const stampOf = (dir) => join(root, dir, "dist", ".built");
const isFresh = (dir, files) => existsSync(stampOf(dir)) && statSync(stampOf(dir)).mtimeMs > newest(files);
const always = [join(root, "package-lock.json"), fileURLToPath(import.meta.url)];

async function buildForNode(dir) {
  const source = join(root, dir, "src");
  const files = walk(source);
  if (isFresh(dir, [...files, ...always])) return;
  rmSync(join(root, dir, "dist"), { recursive: true, force: true });
  const sources = files.filter((f) => /\.ts$/.test(f) && !/\.test\.ts$/.test(f));
  await Promise.all(sources.map((file) => transform(file, source, join(root, dir, "dist"))));
  writeFileSync(stampOf(dir), "");
  console.error(`built ${dir}`);
}

async function transform(file, source, dist) {
  const { code, map } = await transformFile(file, {
    swcrc: false,
    sourceMaps: true,
    module: { type: "commonjs" },
    jsc: {
      target: "es2022",
      parser: { syntax: "typescript", decorators: true },
      transform: { legacyDecorator: true, decoratorMetadata: true },
      keepClassNames: true,
    },
  });
  const out = join(dist, relative(source, file).replace(/\.ts$/, ".js"));
  mkdirSync(dirname(out), { recursive: true });
  writeFileSync(out, `${code}\n//# sourceMappingURL=${out.split("/").pop()}.map\n`);
  writeFileSync(`${out}.map`, map);
}

async function buildWeb() {
  const dir = "apps/web";
  const files = [
    ...walk(join(root, dir)),
    ...walk(join(root, "packages/core/src")),
    ...walk(join(root, "packages/contract/src")),
  ];
  if (isFresh(dir, [...files, ...always])) return;
  const vite = spawn(
    process.execPath,
    [join(root, "node_modules/vite/bin/vite.js"), "build", "--logLevel", "warn"],
    { cwd: join(root, dir), stdio: ["ignore", process.stderr, process.stderr] },
  );
  const [status] = await once(vite, "exit");
  if (status !== 0) throw new Error(`${dir} was not built`);
  compress(join(root, dir, "dist"));
  tellSizes(join(root, dir, "dist"));
  writeFileSync(stampOf(dir), "");
  console.error(`built ${dir}`);
}

const TEXT = /\.(js|css|html|svg)$/;

/** Every text beside it as Brotli and gzip, so that the server need not compress anything. */
function compress(folder) {
  for (const file of walkAll(folder).filter((f) => TEXT.test(f))) {
    const bytes = readFileSync(file);
    const { BROTLI_PARAM_QUALITY: quality } = constants;
    writeFileSync(`${file}.br`, brotliCompressSync(bytes, { params: { [quality]: 9 } }));
    writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }));
  }
}

const walkAll = (dir) =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? walkAll(join(dir, e.name)) : [join(dir, e.name)],
  );

/** The most that the board may need before it can be used, in bytes as they are sent. */
const MOST_FIRST_LOAD = 250_000;

/** Tells what the board loads before it can be used, and the largest of the rest. With CHECK_SIZES too much is an error. */
function tellSizes(folder) {
  const sent = (file) => statSync(`${file}.br`).size;
  const kB = (bytes) => `${(bytes / 1000).toFixed(1)} kB`;
  const page = readFileSync(join(folder, "index.html"), "utf8");
  const named = (text) =>
    [...text.matchAll(/["'](?:\.?\/)?(?:assets\/)?([\w.-]+\.(?:js|css))["']/g)].map((m) => m[1]);
  const first = new Set(named(page));
  // What those import, and so on; not what they load when it is wanted.
  for (const name of first) {
    if (!name.endsWith(".js")) continue;
    const text = readFileSync(join(folder, "assets", name), "utf8");
    for (const [, from] of text.matchAll(
      /(?:^|[;}\s])(?:import|export)[^"'()]{0,4000}?from\s*["']\.\/([\w.-]+\.js)["']/g,
    ))
      first.add(from);
    for (const [, from] of text.matchAll(/(?:^|[;}\s])import\s*["']\.\/([\w.-]+\.js)["']/g)) first.add(from);
  }
  const sizes = [...first].map((name) => [name, sent(join(folder, "assets", name))]);
  const all = sizes.reduce((sum, [, bytes]) => sum + bytes, sent(join(folder, "index.html")));
  console.error(`first load of the board, compressed: ${kB(all)} in ${sizes.length} files`);
  const rest = walkAll(join(folder, "assets"))
    .filter((f) => TEXT.test(f) && !first.has(basename(f)))
    .map((f) => [basename(f), sent(f)])
    .sort((a, b) => b[1] - a[1]);
  for (const [name, bytes] of rest.slice(0, 6)) console.error(`  when it is wanted: ${name} ${kB(bytes)}`);
  if (process.env.CHECK_SIZES && all > MOST_FIRST_LOAD)
    throw new Error(`the board needs ${kB(all)}; ${kB(MOST_FIRST_LOAD)} at most`);
}

const MADE = {
  tile: ["screen/blueNoiseTile.ts", "screen/voidAndCluster.ts", "maths/steady.ts"],
  letters: ["letters/outlines.ts"],
};
for (const [name, [made, ...from]] of Object.entries(MADE)) {
  const script = join(root, `scripts/${name}.mjs`);
  const [out, ...sources] = [made, ...from].map((file) => join(root, "packages/core/src", file));
  if (!existsSync(out) || statSync(out).mtimeMs <= newest([script, ...sources]))
    execFileSync(process.execPath, [script], { stdio: "inherit" });
}
const wanted = nodePackages.filter((dir) => !(process.argv.includes("--start") && developers.includes(dir)));
// One beside the other: each leaves a core free half of the time.
const web = process.argv.includes("--node") ? null : buildWeb();
for (const dir of wanted) await buildForNode(dir);
await web;
