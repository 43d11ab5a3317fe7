// Builds what is stale: every TypeScript package for Node with swc, the web application with Vite.
// Usage: node scripts/build.mjs [--node]   (--node leaves the web application out)
import { transformFile } from "@swc/core";
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const nodePackages = [
  "packages/core",
  "packages/contract",
  "packages/intake",
  "demo",
  "apps/server",
  "apps/cli",
  "bench",
  "e2e",
];

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
  for (const file of files.filter((f) => /\.ts$/.test(f) && !/\.test\.ts$/.test(f))) {
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
    const out = join(root, dir, "dist", relative(source, file).replace(/\.ts$/, ".js"));
    mkdirSync(dirname(out), { recursive: true });
    writeFileSync(out, `${code}\n//# sourceMappingURL=${out.split("/").pop()}.map\n`);
    writeFileSync(`${out}.map`, map);
  }
  writeFileSync(stampOf(dir), "");
  console.error(`built ${dir}`);
}

function buildWeb() {
  const dir = "apps/web";
  const files = [
    ...walk(join(root, dir)),
    ...walk(join(root, "packages/core/src")),
    ...walk(join(root, "packages/contract/src")),
  ];
  if (isFresh(dir, [...files, ...always])) return;
  execFileSync(
    process.execPath,
    [join(root, "node_modules/vite/bin/vite.js"), "build", "--logLevel", "warn"],
    {
      cwd: join(root, dir),
      stdio: ["ignore", process.stderr, process.stderr],
    },
  );
  writeFileSync(stampOf(dir), "");
  console.error(`built ${dir}`);
}

for (const made of ["tile", "letters"])
  execFileSync(process.execPath, [join(root, `scripts/${made}.mjs`)], { stdio: "inherit" });
for (const dir of nodePackages) await buildForNode(dir);
if (!process.argv.includes("--node")) buildWeb();
