import { type MachineView, type RunView } from "@hardline/contract";
import { ENQUIRY, PAUSE, STOP } from "@hardline/core/machine/codes";
import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { once } from "node:events";
import { createServer, type Server, type Socket } from "node:net";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { machineBeside, type MachineBeside } from "../../../e2e/src/machinesBeside";
import { stopMoment } from "../../../e2e/src/stopMoments";
import { nightly } from "../../../e2e/src/nightly";

let databaseUrl: string;
let servers: Program[];
let laser: MachineBeside;
let knife: MachineBeside;
let routeId: string;

const url = (path: string, server = 0) => `${servers[server].url}${path}`;
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));

beforeAll(async () => {
  databaseUrl = await newDatabase();
  servers = [await startProgram(databaseUrl), await startProgram(databaseUrl, ["--role=server"])];
  laser = await machineBeside(() => servers[0], "bed-laser");
  knife = await machineBeside(() => servers[0], "knife-cutter");
  const noise = Uint8Array.from({ length: 300 * 200 }, (_, i) => (i * 7919 * (i % 13)) % 256);
  const picture = await sharp(Buffer.from(noise), { raw: { width: 300, height: 200, channels: 1 } })
    .png()
    .toBuffer();
  const { route } = await addTicket(servers[0].url, picture, "noise.png", [
    { stage: "size", widthMm: 30, dotsPerInch: 254 },
    { stage: "blackWhite" },
    { stage: "cutLine", from: "shape" },
  ]);
  routeId = route.id;
});
afterAll(async () => {
  for (const server of servers) await server?.stop();
  for (const machine of [laser, knife]) await machine?.stop();
});

const runAt = (id: string, server = 0) => ask<RunView>(url(`/api/runs/${id}`, server));
const act = (id: string, what: string, server = 0) =>
  ask<RunView>(url(`/api/runs/${id}/${what}`, server), "POST");
async function until(id: string, is: (run: RunView) => boolean): Promise<RunView> {
  for (let k = 0; k < 900; k++) {
    const run = await runAt(id);
    if (is(run)) return run;
    await sleep(20);
  }
  throw new Error(JSON.stringify(await runAt(id)));
}
const state =
  (...states: string[]) =>
  (run: RunView) =>
    states.includes(run.state);
async function sent(machine: string): Promise<string> {
  const { id } = await ask<RunView>(url("/api/runs"), "POST", { machine, wish: {}, routeId });
  await until(id, state("ready"));
  await act(id, "queue");
  return id;
}

test("stopped or paused at moments by chance, through either of two servers: nothing more is marked after the answer", async () => {
  await laser.faults({ pace: 12 });
  await knife.faults({ pace: 1 });
  const chance = (k: number, n: number) => (k * 7919 + n * 104729) % 997;
  const all = await Promise.all(
    [[laser, "bed-laser", 900] as const, [knife, "knife-cutter", 700] as const].map(
      async ([machine, key, span], n) => {
        const moments = [];
        for (let k = 0; k < 6; k++)
          moments.push(
            await stopMoment(
              machine,
              key,
              routeId,
              servers,
              k % 3 ? "stop" : "pause",
              (chance(k, n) * span) / 997,
              k,
            ),
          );
        return moments;
      },
    ),
  );
  expect(all.flat().map((m) => m.fault)).toEqual(all.flat().map(() => null));
  expect(new Set(all.flat().map((m) => m.before)).has("running")).toBe(true);
});

test("a pause through the server that does not drive it is what the machine does, and so is going on", async () => {
  await laser.faults({ pace: 3 });
  const id = await sent("bed-laser");
  await until(id, (r) => r.executed > 50);
  for (const server of [0, 1]) {
    const paused = await act(id, "pause", server);
    expect([paused.state, paused.error]).toEqual(["paused", null]);
    const { executed } = await runAt(id, server);
    await sleep(300);
    expect((await runAt(id, 1 - server)).executed).toBe(executed);
    expect((await act(id, "resume", 1 - server)).state).toBe("running");
    await until(id, (r) => r.executed > executed + 20);
  }
  await laser.faults({ pace: 0 });
  const done = await until(id, state("done", "held"));
  expect([done.state, done.made]).toEqual(["done", { equal: true, twice: 0 }]);
});

test("the driving server is killed: the beam goes off by itself, the other server holds the run, and it can be stopped there", async () => {
  await laser.faults({ pace: 1 });
  const id = await sent("bed-laser");
  await until(id, (r) => r.executed > 20);
  // Whichever drives it: both are killed one after another, and one is started again.
  await servers[0].kill();
  await sleep(500);
  const held = await (async () => {
    for (let k = 0; k < 200; k++) {
      const run = await runAt(id, 1);
      if (run.state === "held" || run.executed > 0) return run;
      await sleep(50);
    }
    throw new Error("nothing");
  })();
  servers[0] = await startProgram(databaseUrl);
  if (held.state === "running") await act(id, "pause", 1);
  await until(id, state("held", "paused"));
  const floorNow = async () =>
    (await (await fetch(`${laser.floor}/`)).json()) as { mode: string; markedMm: number };
  const now = await floorNow();
  expect(now.mode).not.toBe("going");
  await sleep(300);
  expect((await floorNow()).markedMm).toBe(now.markedMm);
  await laser.faults({ pace: 0 });
  await act(id, "resume", 1);
  expect((await until(id, state("done", "held"))).made).toEqual({ equal: true, twice: 0 });
});

test("a machine that pays no heed is told to stop again and again: the answer says so, the line is broken off, which it does hear", async () => {
  await laser.faults({ pace: 1, deaf: true });
  const id = await sent("bed-laser");
  await until(id, (r) => r.executed > 20);
  const answer = await act(id, "stop");
  expect(answer.state).toBe("stopping");
  expect(answer.error).toMatch(/does not hear: stop was said \d+ times/);
  const { mode, markedMm } = (await (await fetch(`${laser.floor}/`)).json()) as {
    mode: string;
    markedMm: number;
  };
  await sleep(600);
  const later = (await (await fetch(`${laser.floor}/`)).json()) as { mode: string; markedMm: number };
  expect([later.mode, later.markedMm]).toEqual([mode === "going" ? "held" : mode, later.markedMm]);
  expect(later.markedMm - markedMm).toBeLessThan(300);
  expect((await runAt(id)).state).toBe("stopping");
  // Somebody switched it off and on: now it hears.
  await laser.faults({ deaf: false });
  expect((await until(id, state("stopped"))).state).toBe("stopped");
});

test("stopped while a slow machine still greets: it is over at once, and nothing is ever sent", async () => {
  await laser.faults({ pace: 0, greetAfterMs: 1500 });
  const id = await sent("bed-laser");
  await until(id, state("running"));
  const answer = await act(id, "stop", 1);
  expect(answer.state).toBe("stopped");
  await sleep(1800);
  const { job } = (await (await fetch(`${laser.floor}/`)).json()) as { job: string };
  expect(job).not.toBe(id);
  await laser.faults({ greetAfterMs: 0 });
});

/** A machine of a test's own: it says what the test says, however it is cut. */
class OddMachine {
  readonly heard: Buffer[] = [];
  private readonly sockets: Socket[] = [];
  private server!: Server;

  constructor(
    private readonly answers: (text: string, say: (text: string) => void, socket: Socket) => void,
  ) {}

  async listen(): Promise<number> {
    this.server = createServer((socket) => {
      this.sockets.push(socket);
      socket.on("error", () => {});
      this.answers("call", (text) => socket.write(text), socket);
      socket.on("data", (data) => {
        this.heard.push(data);
        this.answers(data.toString("latin1"), (text) => socket.write(text), socket);
      });
    }).listen(0, "127.0.0.1");
    await once(this.server, "listening");
    return (this.server.address() as { port: number }).port;
  }

  get text(): string {
    return Buffer.concat(this.heard).toString("latin1");
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise((r) => this.server.close(r));
  }
}

/** The machine made known under a key of its own, used, and removed again. */
async function withMachine(odd: OddMachine, key: string, use: (id: string) => Promise<void>): Promise<void> {
  const port = await odd.listen();
  const machine = { ...USUAL_MACHINES[0], key, name: key };
  await ask(url("/api/machines"), "PUT", { machine, version: 1, host: "127.0.0.1", port });
  try {
    await use(await sent(key));
  } finally {
    await odd.close();
  }
}

test.each([
  ["in pieces of a byte", (t: string) => t.split("")],
  ["two replies in one piece", (t: string) => [t]],
  ["with CR LF", (t: string) => [t.replaceAll("\n", "\r\n")]],
  ["each reply in two pieces", (t: string) => t.split(/(?<=e)/)],
] as const)("a machine that answers %s is understood", async (how, cut) => {
  let lines = 0;
  let saying: Promise<void> = Promise.resolve();
  const odd = new OddMachine((text, say) => {
    const slowly = (all: string): void => {
      saying = saying.then(async () => {
        for (const piece of cut(all)) {
          say(piece);
          await sleep(1);
        }
      });
    };
    // What it did before is of another job.
    if (text === "call") return slowly("hello odd 77 9 0 0 0\nis done 9 1.000 77\nstopped 9 1.000 77\n");
    if (text.includes("JOB")) return slowly("begin 0 0 0 0\nodd words nobody knows\n");
    lines += (text.match(/\n/g) ?? []).length;
    if (text.includes("M2")) slowly(`ok ${lines}\nok ${lines}\nat ${lines} 1.5\nat 2 0.1\ndone 2.5\n`);
    else if (text.includes("\n")) slowly(`ok ${lines}\n`);
  });
  await withMachine(odd, `odd-${how.length}`, async (id) => {
    const done = await until(id, state("done", "held"));
    expect([done.state, done.error, done.seconds]).toEqual(["done", null, 2.5]);
    expect(odd.text).toContain("M2");
  });
});

test.each([
  ["megabytes without an end", (socket: Socket) => socket.write("x".repeat(3 << 20)), /without an end/],
  [
    "that more is done than there is",
    (socket: Socket) => socket.write("hello odd - 0 0 0 0\nbegin 99999999 0 0 0\n"),
    /says that line 99999999/,
  ],
  [
    "refused, with letters that nobody may see",
    (socket: Socket) => socket.write(`refused \u0007${"y".repeat(500)}\n`),
    /refuses: y{199}\.$/,
  ],
] as const)("a machine that says %s is let go of, and the run held", async (how, say, why) => {
  const odd = new OddMachine((text, _say, socket) => void (text === "call" && say(socket)));
  await withMachine(odd, `worse-${how.length}`, async (id) => {
    const held = await until(id, state("held"));
    expect(held.error).toMatch(why);
    await act(id, "stop");
  });
});

test("a machine that knows no codes is told in words; one that never answers stays stopping until somebody puts it away, and is removed then", async () => {
  const odd = new OddMachine((text, say) => {
    if (text === "call") say("hello odd - 0\n");
    else if (text.includes("JOB")) say("begin 0\n");
  });
  await withMachine(odd, "silent-one", async (id) => {
    await until(id, () => odd.text.includes("N5"));
    const sentBefore = odd.text.length;
    const answer = await act(id, "stop");
    expect([answer.state, answer.error]).toEqual(["stopping", expect.stringMatching(/does not hear/)]);
    const after = odd.text.slice(sentBefore);
    expect(after.replace(/STOP\n/g, "")).toBe("");
    expect(Buffer.from(odd.text, "latin1").some((b) => b === ENQUIRY || b === STOP || b === PAUSE)).toBe(
      false,
    );
    expect(await ask(url("/api/machines/silent-one"), "DELETE").catch((e: Error) => e.message)).toMatch(
      /409.*stays/,
    );
    expect((await act(id, "put-away", 1)).state).toBe("stopped");
    await ask(url("/api/machines/silent-one"), "DELETE");
    const keys = (await ask<MachineView[]>(url("/api/machines"))).map((m) => m.machine.key);
    expect(keys).not.toContain("silent-one");
    expect((await runAt(id)).error).toMatch(/Put away by hand/);
  });
});

test("a program that was changed where it is kept is not sent", async () => {
  const { id } = await ask<RunView>(url("/api/runs"), "POST", { machine: "bed-laser", wish: {}, routeId });
  const { plan } = await until(id, state("ready"));
  const { default: pg } = await import("pg");
  const client = new pg.Client(databaseUrl);
  await client.connect();
  const { sha256 } = plan!;
  const change = (byte: number) =>
    client.query("update blob_chunks set data = set_byte(data, 60, $2) where sha256 = $1", [sha256, byte]);
  const read = "select get_byte(data, 60) as byte from blob_chunks where sha256 = $1";
  const { rows } = await client.query<{ byte: number }>(read, [sha256]);
  await change(50);
  await act(id, "queue");
  expect((await until(id, state("held", "done"))).error).toMatch(/not the one that was planned|is not sent/);
  await act(id, "stop");
  await change(rows[0].byte);
  await client.end();
});

nightly("twelve machines at work hold one connection, and the board answers", async () => {
  const odds: OddMachine[] = [];
  const ids: string[] = [];
  for (let k = 0; k < 12; k++) {
    const odd = new OddMachine((text, say) => {
      if (text === "call") say("hello odd - 0 0 0 0\n");
      else if (text.includes("JOB")) say("begin 0 0 0 0\n");
      else if (text.includes("\x14")) say("stopped 0 0\n");
      else if (text.includes("\x05")) say("is going 0 0\n");
    });
    odds.push(odd);
    const machine = { ...USUAL_MACHINES[0], key: `many-${k}`, name: `Many ${k}` };
    await ask(url("/api/machines"), "PUT", {
      machine,
      version: 1,
      host: "127.0.0.1",
      port: await odd.listen(),
    });
    ids.push(await sent(`many-${k}`));
  }
  for (const id of ids) await until(id, (r) => r.state === "running");
  const began = performance.now();
  await Promise.all(Array.from({ length: 20 }, (_, k) => ask(url("/api/machines", k % 2))));
  await ask(url("/api/tickets"));
  // A pool of twelve that was all taken let nobody in for seconds.
  expect(performance.now() - began).toBeLessThan(4000);
  for (const id of ids) expect((await act(id, "stop")).state).toBe("stopped");
  for (const odd of odds) await odd.close();
});
