// Numbers that judge pictures, materials and machines say what they are, and a file of them says which table, paper or test
// holds them. Usage: node scripts/thresholds.mjs
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const ROOMS = ["clear", "reading", "film", "wedge", "machine", "sheet"];
const TABLES = Object.keys(JSON.parse(readFileSync(join(root, "package.json"), "utf8")).scripts);
const CONSTANT = /^(?:export )?const (\[[^\]]*\]|[A-Z_0-9]+)[^=]*= (-?[0-9[].*)$/;

const walk = (dir) =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? walk(join(dir, e.name)) : /(?<!\.test)\.ts$/.test(e.name) ? [join(dir, e.name)] : [],
  );

const faults = [];
for (const file of ROOMS.flatMap((room) => walk(join(root, "packages/core/src", room)))) {
  const text = readFileSync(file, "utf8");
  const lines = text.split("\n");
  let fraction = null;
  lines.forEach((line, k) => {
    const found = CONSTANT.exec(line);
    if (!found) return;
    // A comment stands above it, or above the constants right before it.
    let above = k - 1;
    while (above >= 0 && CONSTANT.test(lines[above])) above--;
    if (!/\*\/$|^\/\//.test(lines[above] ?? ""))
      faults.push(`${relative(root, file)}:${k + 1}: ${found[1]} does not say what it is`);
    if (/\d\.\d/.test(found[2])) fraction ??= `${relative(root, file)}:${k + 1}: ${found[1]}`;
  });
  const tables = [...text.matchAll(/`npm run (\w+)`/g)].map((m) => m[1]);
  for (const table of tables.filter((t) => !TABLES.includes(t)))
    faults.push(`${relative(root, file)}: there is no \`npm run ${table}\``);
  if (fraction && tables.length === 0 && !/@see|`\w+\.test\.ts`/.test(text))
    faults.push(`${fraction} names no table, paper or test that holds it`);
}
for (const fault of faults) console.log(fault);
process.exit(faults.length > 0 ? 1 : 0);
