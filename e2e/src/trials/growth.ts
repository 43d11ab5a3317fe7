import { type RouteView } from "@hardline/contract";
import { replaceSettings, type Route } from "@hardline/core/route/route";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram } from "../harness";
import { chance, printTable } from "./table";

// Usage: npm run growth [-- EDITS]
/*
 * What a shop's database comes to after ten thousand edits: a score of tickets, half of them cleared by many strokes,
 * every edit a stroke more or a setting moved, each looked at as the bench does. Printed: bytes of the tables, before and
 * after what nobody can come to any more is collected.
 */
const EDITS = Number(process.argv[2] ?? 10000);
const TICKETS = 20;
const next = chance(5);

async function main(): Promise<void> {
  const base = await newDatabase();
  const program = await startProgram(base, ["--role=server"], {
    LOG_LEVEL: "fatal",
    HARDLINE_COLLECT_AFTER_SECONDS: "20",
  });
  const client = new pg.Client(base);
  await client.connect();
  const routes: RouteView[] = [];
  for (let k = 0; k < TICKETS; k++) {
    const picture = await sharp({
      create: { width: 400, height: 300, channels: 3, background: { r: 9 * k, g: 120, b: 90 } },
    })
      .png()
      .toBuffer();
    const stages = [
      { stage: "size", widthMm: 60 },
      ...(k % 2 ? [{ stage: "clear" }] : []),
      { stage: "tone" },
      { stage: "blackWhite" },
    ];
    routes.push((await addTicket(program.url, picture, `p${k}.png`, stages)).route);
  }
  const thumbnail = (seed: number) =>
    sharp(Buffer.from(Uint8Array.from({ length: 160 * 120 * 3 }, (_, i) => (i * seed) >> 5)), {
      raw: { width: 160, height: 120, channels: 3 },
    })
      .png()
      .toBuffer();
  let sent = 0;
  for (let n = 0; n < EDITS; n++) {
    const k = n % TICKETS;
    const route = edited(routes[k].route, n);
    const body = { version: routes[k].version, route };
    sent += JSON.stringify(route).length;
    routes[k] = await ask<RouteView>(`${program.url}/api/routes/${routes[k].id}`, "PUT", body);
    if (n % 3 === 0)
      await ask(`${program.url}/api/routes/${routes[k].id}/findings`, "PUT", {
        ...{
          revision: routes[k].revision,
          looks: 0,
          stops: 0,
          thumbnail: (await thumbnail(n + 3)).toString("base64"),
        },
      });
    if (n % 1000 === 999) console.error(`${n + 1} edits`);
  }
  const sizes = async (): Promise<Record<string, number>> => {
    await client.query("vacuum full");
    const { rows } = await client.query<{ name: string; bytes: string }>(
      "select relname as name, pg_total_relation_size(oid) as bytes from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace",
    );
    return Object.fromEntries(rows.map((r) => [r.name, Number(r.bytes)]));
  };
  const before = await sizes();
  await new Promise((r) => setTimeout(r, 65000)); // older than is collected, and a round
  const after = await sizes();
  const names = Object.keys(before)
    .filter((name) => before[name] > 65536)
    .sort((a, b) => before[b] - before[a]);
  const mb = (bytes: number) => (bytes / 1048576).toFixed(1);
  const total = (of: Record<string, number>) => Object.values(of).reduce((a, b) => a + b, 0);
  printTable(
    `After ${EDITS} edits of ${TICKETS} routes (${mb(sent)} MB of routes were sent)`,
    ["table", "MB", "MB once collected"],
    [
      ...names.map((name) => [name, mb(before[name]), mb(after[name])]),
      ["all", mb(total(before)), mb(total(after))],
    ],
  );
  console.log(`\n${(total(after) / EDITS).toFixed(0)} bytes an edit`);
  await client.end();
  await program.stop();
  process.exit(0);
}

/** A stroke more where the route clears, up to three hundred; a tone moved otherwise. */
function edited(route: Route, n: number): Route {
  const clear = route.stages.find((s) => s.stage === "clear") as { ops: readonly object[] } | undefined;
  if (!clear) return replaceSettings(route, "tone", { black: (n % 40000) / 100000 });
  const [first] = clear.ops as readonly { op: string; paints: string; strokes: readonly object[] }[];
  const points = Array.from({ length: 40 }, () => [next(), next()].map((v) => Math.round(v * 1e4) / 1e4));
  const strokes = [...(first?.strokes ?? []).slice(-299), { points, sizeMm: 3 }];
  return replaceSettings(route, "clear", { ops: [{ op: "brush", paints: "away", strokes }] });
}

void main();
