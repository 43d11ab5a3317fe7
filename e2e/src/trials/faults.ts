import { type RenderView } from "@hardline/contract";
import { execFileSync } from "node:child_process";
import pg from "pg";
import sharp from "sharp";
import { addTicket, ask, newDatabase, photographOf, ROOT, startSignedIn, type Program } from "../harness";
import { machineBeside } from "../machinesBeside";
import { stopMoment, type Moment } from "../stopMoments";
import { Operator } from "./operators";
import { chance, printTable, quantile, sleep } from "./table";

// Usage: npm run faults [-- kills connections database load stops]   (KILLS, MOMENTS: how many)
/*
 * The program while it and what it stands on break: server and worker killed at moments by chance, connections to the
 * database ended, the database stopped for twenty seconds; and under load. Printed: acknowledged changes, how many of
 * them are lost, how renders ended, how long edits took. It fails where one is lost or a render does not end.
 */
const next = chance(3);
const LEASE = { HARDLINE_LEASE_SECONDS: "2" };
const STAGES = [{ stage: "size", widthMm: 60, dotsPerInch: 254 }, { stage: "tone" }, { stage: "blackWhite" }];
const TEN_MP = [
  { stage: "size", widthMm: 390, dotsPerInch: 254 },
  { stage: "tone", sharpen: { amount: 1, radiusMm: 0.3 } },
  { stage: "blackWhite" },
];
const KILLS = Number(process.env.KILLS ?? 100);
let faults = 0;

async function query<T extends object>(base: string, text: string): Promise<T[]> {
  const client = new pg.Client(base);
  client.on("error", () => undefined);
  await client.connect();
  const { rows } = await client.query<T>(text);
  await client.end();
  return rows;
}

const picture = (seed: number) =>
  sharp({ create: { width: 300, height: 200, channels: 3, background: { r: seed * 7, g: 90, b: 120 } } })
    .png()
    .toBuffer();

/** Asks for files now and then, and remembers which renders were acknowledged. */
class Asker {
  readonly ids: string[] = [];
  private stopped = false;

  constructor(
    private readonly url: () => string,
    private readonly routes: readonly string[],
  ) {}

  async work(): Promise<void> {
    while (!this.stopped) {
      await sleep(1000 + next() * 2000);
      const route = this.routes[Math.floor(next() * this.routes.length)];
      await ask<RenderView>(`${this.url()}/api/routes/${route}/renders`, "POST").then(
        ({ id }) => this.ids.push(id),
        () => undefined,
      );
    }
  }

  stop(): void {
    this.stopped = true;
  }
}

interface Bench {
  readonly base: string;
  readonly operators: Operator[];
  readonly asker: Asker;
  readonly working: Promise<unknown>;
  readonly routes: string[];
}

async function startWork(base: string, url: () => string, count: number): Promise<Bench> {
  const routes: string[] = [];
  for (let k = 0; k < count; k++)
    routes.push((await addTicket(url(), await picture(k), `p${k}.png`, STAGES)).route.id);
  const operators = routes.map((id) => new Operator(url, id, () => 40 + next() * 120));
  const asker = new Asker(url, routes);
  const working = Promise.all([...operators.map((o, k) => o.work(0.01 + k * 0.04)), asker.work()]);
  return { base, operators, asker, working, routes };
}

/** Route and black of every revision there is, parts that revisions share put back. */
async function blacksKept(base: string): Promise<Set<string>> {
  const parts = await query<{ sha256: string; body: string }>(base, "select sha256, body::text from parts");
  const known = new Map(parts.map((p) => [p.sha256, p.body]));
  const rows = await query<{ route_id: string; body: string }>(
    base,
    "select route_id::text, body::text from route_revisions",
  );
  const whole = (text: string): string =>
    text.replace(/\{"\$part": "([0-9a-f]{64})"\}/g, (_all, name: string) => whole(known.get(name)!));
  return new Set(rows.map((r) => `${r.route_id} ${Number(/"black": ([\d.e-]+)/.exec(whole(r.body))?.[1])}`));
}

/** Stops the work, then looks whether everything that was acknowledged is there and every render ends. */
async function lookBack(
  title: string,
  { base, operators, asker, working, routes }: Bench,
  url: string,
  more: [string, string | number][],
): Promise<void> {
  for (const o of operators) o.stop();
  asker.stop();
  await working;
  const kept = await blacksKept(base);
  let [acknowledged, lost] = [0, 0];
  operators.forEach((o, k) => {
    acknowledged += o.acknowledged.length;
    lost += o.acknowledged.filter((black) => !kept.has(`${routes[k]} ${black}`)).length;
  });
  const states: Record<string, number> = {};
  const until = Date.now() + 400000;
  for (const id of asker.ids) {
    let state = "";
    while (state !== "done" && state !== "failed" && Date.now() < until) {
      state = (await ask<RenderView>(`${url}/api/renders/${id}`).catch(() => ({ state: "" }))).state;
      if (state !== "done" && state !== "failed") await sleep(200);
    }
    states[state] = (states[state] ?? 0) + 1;
  }
  const open = asker.ids.length - (states.done ?? 0) - (states.failed ?? 0);
  faults += lost + open;
  printTable(
    title,
    ["what", "value"],
    [
      ...more,
      ["edits acknowledged", acknowledged],
      ["edits refused, and told", operators.reduce((sum, o) => sum + o.refused, 0)],
      ["acknowledged edits lost", lost],
      ["renders asked for", asker.ids.length],
      ["renders done / failed / left open", `${states.done ?? 0} / ${states.failed ?? 0} / ${open}`],
    ],
  );
}

async function kills(): Promise<void> {
  const base = await newDatabase();
  const start = (role: string) => startSignedIn(base, [`--role=${role}`], { ...LEASE, LOG_LEVEL: "fatal" });
  const running: Record<string, Program> = { server: await start("server"), worker: await start("worker") };
  const url = () => running.server.url;
  const bench = await startWork(base, url, 6);
  const count: Record<string, number> = { server: 0, worker: 0 };
  for (let k = 0; k < KILLS; k++) {
    await sleep(100 + next() * 700);
    const role = next() < 0.5 ? "server" : "worker";
    await running[role].kill();
    running[role] = await start(role);
    count[role]++;
  }
  await lookBack("Killed at moments by chance", bench, url(), [
    ["kills of server / worker", `${count.server} / ${count.worker}`],
  ]);
  await Promise.all(Object.values(running).map((p) => p.kill()));
}

const CUT =
  "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() order by random() limit 3";

async function connections(): Promise<void> {
  const base = await newDatabase();
  const program = await startSignedIn(base, [], { ...LEASE, LOG_LEVEL: "fatal" });
  const bench = await startWork(base, () => program.url, 6);
  let [ended, died] = [0, 0];
  program.process.once("exit", () => died++);
  for (let k = 0; k < 100; k++) {
    await sleep(30 + next() * 150);
    ended += (await query(base, CUT)).length;
  }
  await lookBack("Connections to the database ended", bench, program.url, [
    ["connections ended", ended],
    ["times the program ended", died],
  ]);
  faults += died;
  await program.kill();
}

/** Stops or starts the cluster that this script was given. */
function postgres(act: "stop" | "start"): void {
  const script = `. scripts/lib.sh; . scripts/postgres.sh; data=$HARDLINE_TEST_CLUSTER/data
    if [ ${act} = stop ]; then cp $data/postmaster.opts /tmp/hard-line-opts; as_owner "$pg_bin/pg_ctl" -D $data -m fast -w stop; else
    eval "set -- $(cut -d' ' -f2- /tmp/hard-line-opts)"; shift 2; as_owner "$pg_bin/pg_ctl" -D $data -w -l $HARDLINE_TEST_CLUSTER/postgres.log -o "$(printf "'%s' " "$@")" start; fi`;
  execFileSync("bash", ["-c", script], { cwd: ROOT, stdio: ["ignore", "ignore", "inherit"] });
}

async function database(): Promise<void> {
  const base = await newDatabase();
  const program = await startSignedIn(base, [], { ...LEASE, LOG_LEVEL: "fatal" });
  const bench = await startWork(base, () => program.url, 6);
  let died = 0;
  program.process.once("exit", () => died++);
  for (let k = 0; k < 3; k++) {
    await sleep(3000);
    postgres("stop");
    await sleep(20000);
    postgres("start");
    await sleep(4000);
  }
  await lookBack("Database stopped for 20 s, three times", bench, program.url, [
    ["times the program ended", died],
  ]);
  faults += died;
  await program.kill();
}

async function load(): Promise<void> {
  const base = await newDatabase();
  const program = await startSignedIn(base, [], { LOG_LEVEL: "fatal" });
  const big = photographOf(2400, 1600);
  const large: string[] = [];
  for (let k = 0; k < 3; k++) large.push((await addTicket(program.url, big, "big.jpg", TEN_MP)).route.id);
  const routes: string[] = [];
  for (let k = 0; k < 20; k++)
    routes.push((await addTicket(program.url, await picture(k), `p${k}.png`, STAGES)).route.id);
  const round = async (title: string, renders: boolean) => {
    const operators = routes.map(
      (id) =>
        new Operator(
          () => program.url,
          id,
          () => 200 + next() * 300,
        ),
    );
    const working = Promise.all(operators.map((o, k) => o.work(0.01 + k * 0.04)));
    const ids = renders
      ? await Promise.all(
          large.map(
            async (id) => (await ask<RenderView>(`${program.url}/api/routes/${id}/renders`, "POST")).id,
          ),
        )
      : [];
    const until = Date.now() + 60000;
    let [done, again] = [0, ids];
    while (Date.now() < until) {
      await sleep(500);
      const left: string[] = [];
      for (const id of again) {
        const { state, routeId } = await ask<RenderView>(`${program.url}/api/renders/${id}`);
        if (state === "done") done++;
        // three at any time, for the whole minute
        left.push(
          state === "done" || state === "failed"
            ? (await ask<RenderView>(`${program.url}/api/routes/${routeId}/renders`, "POST")).id
            : id,
        );
      }
      again = left;
    }
    for (const o of operators) o.stop();
    await working;
    const took = operators.flatMap((o) => o.took);
    const p95 = quantile(took, 0.95);
    if (p95 > 200) faults++;
    return [
      title,
      took.length,
      quantile(took, 0.5).toFixed(0),
      p95.toFixed(0),
      Math.max(...took).toFixed(0),
      operators.reduce((sum, o) => sum + o.refused, 0),
      done,
    ];
  };
  const rows = [await round("20 operators, three 10 MP renders beside", true)];
  printTable(
    "Under load, 60 s",
    ["what", "edits", "median ms", "p95 ms", "longest ms", "refused", "renders done"],
    rows,
  );
  await program.stop();
}

const MOMENTS = Number(process.env.MOMENTS ?? 500);

/** Runs stopped and paused at moments by chance, on both machines that move, through either of two servers. */
async function stops(): Promise<void> {
  const base = await newDatabase();
  const servers = [
    await startSignedIn(base, [], { LOG_LEVEL: "fatal" }),
    await startSignedIn(base, ["--role=server"], { LOG_LEVEL: "fatal" }),
  ];
  const noise = Uint8Array.from({ length: 300 * 200 }, (_, i) => (i * 7919 * (i % 13)) % 256);
  const png = await sharp(Buffer.from(noise), { raw: { width: 300, height: 200, channels: 1 } })
    .png()
    .toBuffer();
  const { route } = await addTicket(servers[0].url, png, "noise.png", [
    { stage: "size", widthMm: 30, dotsPerInch: 254 },
    { stage: "blackWhite" },
    { stage: "cutLine", from: "shape" },
  ]);
  const rows: (string | number)[][] = [];
  const machines = [["bed-laser", 12, 1600] as const, ["knife-cutter", 1, 1500] as const];
  await Promise.all(
    machines.map(async ([key, pace, span]) => {
      const machine = await machineBeside(() => servers[0], key, pace);
      const moments: Moment[] = [];
      for (let k = 0; k < MOMENTS / machines.length; k++) {
        // Now and then the machine is slow to greet.
        await machine.faults({ greetAfterMs: next() < 0.15 ? 700 : 0 });
        const what = next() < 0.6 ? "stop" : "pause";
        const through = next() < 0.5 ? 0 : 1;
        moments.push(await stopMoment(machine, key, route.id, servers, what, next() * span, through));
      }
      for (const what of ["stop", "pause"] as const) {
        const own = moments.filter((m) => m.what === what);
        const lost = own.filter((m) => m.fault !== null);
        for (const m of lost.slice(0, 10)) console.log(`${key}: ${JSON.stringify(m)}`);
        faults += lost.length;
        const at = (state: string) => own.filter((m) => m.before === state).length;
        const took = own.map((m) => m.answerMs);
        rows.push([
          ...[
            `${key}, ${what}`,
            own.length,
            at("queued"),
            at("running"),
            own.length - at("queued") - at("running"),
          ],
          ...[
            lost.length,
            own.filter((m) => m.unheard).length,
            quantile(took, 0.5).toFixed(0),
            quantile(took, 0.99).toFixed(0),
          ],
        ]);
      }
      await machine.stop();
    }),
  );
  printTable(
    "Stopped and paused at moments by chance, through either of two servers",
    [
      "what",
      "moments",
      "while it waited",
      "while it ran",
      "after",
      "lost",
      "not heard, and said so",
      "answered in ms, median",
      "99 %",
    ],
    rows,
  );
  for (const server of servers) await server.stop();
}

async function main(): Promise<void> {
  const parts: Record<string, () => Promise<void>> = { kills, connections, database, load, stops };
  const wanted = process.argv.slice(2);
  for (const [name, run] of Object.entries(parts))
    if (wanted.length === 0 || wanted.includes(name)) await run();
  console.log(`\n${faults} faults`);
  process.exit(faults ? 1 : 0);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
