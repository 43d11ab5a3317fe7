// No room needs, however indirectly, one that needs it. A room is a folder directly under a source folder; types alone make
// no circle, since nothing is left of them when it runs. Usage: node scripts/rooms.mjs [FOLDER ...]
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { fileURLToPath } from "node:url";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const given = process.argv.slice(2);
const SOURCES = [
  "packages/core/src",
  "packages/contract/src",
  "packages/intake/src",
  "apps/web/src",
  "apps/cli/src",
  "apps/server/src",
];
const folders = given.length > 0 ? given : [...SOURCES, "demo/src", "bench/src"];

const walk = (dir) =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? walk(join(dir, e.name)) : /(?<!\.test)\.tsx?$/.test(e.name) ? [join(dir, e.name)] : [],
  );

/** Imports of a file that are there when it runs: where they lead. */
function importsOf(file) {
  const text = readFileSync(file, "utf8");
  const found = [];
  for (const [, type, names, from] of text.matchAll(
    /^(?:import|export)\s+(type\s+)?([^"';]*?)\s*from\s+"(\.[^"]+)";/gm,
  )) {
    const each = /^\{([^}]*)\}$/
      .exec(names.trim())?.[1]
      .split(",")
      .map((n) => n.trim());
    const isType = type || each?.filter(Boolean).every((n) => n.startsWith("type "));
    if (!isType) found.push(resolve(dirname(file), from));
  }
  return found;
}

/** Rooms that need one another, in one circle each. @see Tarjan, "Depth-first search and linear graph algorithms", 1972 */
function circlesIn(source) {
  const roomOf = (file) => {
    const [room, ...rest] = relative(source, file).split("/");
    return rest.length > 0 ? room : null;
  };
  const needs = new Map();
  for (const file of walk(source).filter((f) => roomOf(f) && roomOf(f) !== "testing"))
    for (const to of importsOf(file)) {
      const [a, b] = [roomOf(file), roomOf(existsSync(to) ? join(to, "index") : to)];
      if (!b || a === b || b === "testing") continue;
      if (!needs.has(a)) needs.set(a, new Map());
      needs.get(a).set(b, `${relative(root, file)} needs ${relative(root, to)}`);
    }
  const [order, low, stack, circles] = [new Map(), new Map(), [], []];
  const visit = (room) => {
    order.set(room, order.size);
    low.set(room, order.get(room));
    stack.push(room);
    for (const next of needs.get(room)?.keys() ?? []) {
      if (!order.has(next)) visit(next);
      if (stack.includes(next)) low.set(room, Math.min(low.get(room), low.get(next)));
    }
    if (low.get(room) !== order.get(room)) return;
    const circle = stack.splice(stack.indexOf(room));
    if (circle.length > 1) circles.push(circle);
  };
  for (const room of needs.keys()) if (!order.has(room)) visit(room);
  return circles.map((circle) => ({
    circle,
    why: circle.flatMap((a) => circle.flatMap((b) => needs.get(a)?.get(b) ?? [])),
  }));
}

let found = 0;
for (const folder of folders)
  for (const { circle, why } of circlesIn(resolve(root, folder))) {
    found++;
    console.error(`${folder}: the rooms ${circle.join(", ")} need one another\n  ${why.join("\n  ")}`);
  }
process.exit(found > 0 ? 1 : 0);
