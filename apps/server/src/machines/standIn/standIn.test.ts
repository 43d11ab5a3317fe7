import { writeBitsPng } from "@hardline/core/format/png";
import { ENQUIRY, PAUSE, STOP } from "@hardline/core/machine/codes";
import { type Job } from "@hardline/core/machine/job";
import { USUAL_MACHINES, type Machine } from "@hardline/core/machine/machine";
import { planRun } from "@hardline/core/machine/plan";
import { ProgramLines } from "@hardline/core/machine/programLines";
import { resumeAt } from "@hardline/core/machine/resume";
import { runWish } from "@hardline/core/machine/wish";
import { runToEnd } from "@hardline/core/maths/work";
import { rectangleKnots } from "@hardline/core/path/outline";
import { pathSetOf } from "@hardline/core/path/pathSet";
import { newBits, type Bits } from "@hardline/core/raster/types";
import { mkdtempSync, rmSync } from "node:fs";
import { request } from "node:http";
import { connect, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Floor } from "./floor";
import { StandIn } from "./standIn";

const [laser] = USUAL_MACHINES;
let folder: string;
let machine: StandIn;
let floor: Floor;
let port: number;
let floorUrl: string;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), "hard-line-machine-"));
  await start(laser);
});
afterEach(async () => {
  await machine.close();
  await floor.close();
  rmSync(folder, { recursive: true });
});

async function start(of: Machine): Promise<void> {
  machine = new StandIn(of, folder, 0);
  port = await machine.listen(0);
  floor = new Floor(machine);
  floorUrl = `http://127.0.0.1:${await floor.listen(0)}`;
}

/** A caller that keeps what it was told. */
class Caller {
  readonly heard: string[] = [];
  private waiting: (() => void)[] = [];
  private rest = "";
  readonly socket: Socket;
  isClosed = false;

  constructor(to: number) {
    this.socket = connect(to, "127.0.0.1");
    this.socket.on("data", (data) => {
      const lines = (this.rest + data.toString()).split("\n");
      this.rest = lines.pop()!;
      this.heard.push(...lines);
      this.waiting.splice(0).forEach((go) => go());
    });
    this.socket.on("error", () => {});
    this.socket.on("close", () => {
      this.isClosed = true;
      this.waiting.splice(0).forEach((go) => go());
    });
  }

  async until(found: (line: string) => boolean): Promise<string> {
    for (;;) {
      const line = this.heard.find(found);
      if (line !== undefined) return line;
      if (this.isClosed) return "";
      await new Promise<void>((go) => this.waiting.push(go));
    }
  }

  say(text: string): void {
    this.socket.write(text);
  }

  signal(...codes: number[]): void {
    this.socket.write(Uint8Array.from(codes));
  }

  /** Sends a program on from where the machine says it is, and keeps giving signs of life. */
  async send(job: string, of: readonly string[], from: string, profile: Machine): Promise<void> {
    const [line, x, y, left] = from.split(" ").map(Number);
    const all = runToEnd(ProgramLines.of(Buffer.from(`${of.join("\n")}\n`)));
    const { say, instead } = runToEnd(resumeAt(all, { line, x, y, left }, profile));
    const again = say.map((words) => `SET ${words}`);
    const rest = of.slice(line);
    if (instead !== null) rest[0] = instead;
    this.say(`JOB ${job}\n`);
    await this.until((l) => l.startsWith("begin"));
    this.say(`${[...again, ...rest].join("\n")}\n`);
  }
}

function someDots(width: number, height: number): Bits {
  const bits = newBits(width, height);
  for (let k = 0; k < bits.data.length; k++) bits.data[k] = (k * 37 + 11) & 0xff;
  return bits;
}
const bits = someDots(160, 60);
const job: Job = {
  name: "Piece",
  widthMm: 16,
  heightMm: 6,
  sets: [],
  bitmaps: [{ name: "engrave", bits, dotsPerInch: 254 }],
};
const { program } = runToEnd(planRun(job, laser, runWish.parse({})));
const lines = new TextDecoder().decode(program.bytes).trimEnd().split("\n");

async function burned(): Promise<{ png: Buffer; twice: number }> {
  const [x, y] = program.at;
  const query = `width=160&height=60&dotsPerInch=254&xMm=${x}&topMm=${laser.bed.heightMm - y}`;
  const response = await fetch(`${floorUrl}/burned?${query}`);
  return { png: Buffer.from(await response.arrayBuffer()), twice: Number(response.headers.get("X-Twice")) };
}
const wanted = Buffer.from(runToEnd(writeBitsPng(bits, 254)));
const setFaults = (faults: object) =>
  fetch(`${floorUrl}/faults`, { method: "POST", body: JSON.stringify(faults) });

test("a whole program: every line is acknowledged, what it burned is the bitmap", async () => {
  const caller = new Caller(port);
  expect(await caller.until((l) => l.startsWith("hello"))).toBe("hello bed-laser - 0 0 0 0");
  caller.say(`JOB 7\n${lines.join("\n")}\n`);
  const done = await caller.until((l) => l.startsWith("done"));
  expect(Number(done.split(" ")[1])).toBeGreaterThan(1);
  expect(caller.heard.filter((l) => l.startsWith("ok")).at(-1)).toBe(`ok ${lines.length}`);
  const { png, twice } = await burned();
  expect([png.equals(wanted), twice]).toEqual([true, 0]);
});

test.each(["line", "power", "process"] as const)(
  "loss of its %s in the middle: gone on from where it says, each dot is burned once",
  async (what) => {
    const at = Math.floor(lines.length / 2);
    await setFaults({ loseLineAt: at });
    const first = new Caller(port);
    await first.until((l) => l.startsWith("hello"));
    first.say(`JOB 7\n${lines.join("\n")}\n`);
    await first.until(() => false);
    if (what === "power") {
      await setFaults({ off: true });
      await new Promise((r) => setTimeout(r, 50));
      await setFaults({ off: false });
    } else if (what === "process") {
      // Nothing is said to the old one: it is simply no longer there.
      await machine.close();
      await floor.close();
      await start(laser);
    }
    const second = new Caller(port);
    const [, , jobId, executed, ...place] = (await second.until((l) => l.startsWith("hello"))).split(" ");
    expect(jobId).toBe("7");
    expect(Number(executed)).toBeGreaterThanOrEqual(at);
    expect(Number(executed)).toBeLessThan(lines.length);
    await second.send("7", lines, [executed, ...place].join(" "), laser);
    await second.until((l) => l.startsWith("done"));
    const { png, twice } = await burned();
    expect([png.equals(wanted), twice]).toEqual([true, 0]);
  },
);

test("a jam stands still until somebody was there; another job clears the bed", async () => {
  await setFaults({ jamAt: 100 });
  const first = new Caller(port);
  await first.until((l) => l.startsWith("hello"));
  first.say(`JOB 7\n${lines.join("\n")}\n`);
  expect(await first.until((l) => l.startsWith("jam"))).toMatch(/^jam \d+$/);
  await first.until(() => false);
  expect(await new Caller(port).until((l) => l.startsWith("refused"))).toBe("refused jammed");
  await fetch(`${floorUrl}/clear`, { method: "POST" });
  const second = new Caller(port);
  await second.until((l) => l.startsWith("hello"));
  second.say(`JOB 8\n${lines.join("\n")}\n`);
  expect(await second.until((l) => l.startsWith("begin"))).toBe("begin 0 0 0 0");
  await second.until((l) => l.startsWith("done"));
  expect((await burned()).png.equals(wanted)).toBe(true);
});

test("it refuses when told to, and says what line it does not know", async () => {
  await setFaults({ refuse: "the lid is open" });
  expect(await new Caller(port).until((l) => l.startsWith("refused"))).toBe("refused the lid is open");
  await setFaults({ refuse: null });
  const caller = new Caller(port);
  await caller.until((l) => l.startsWith("hello"));
  caller.say("JOB 9\nN1G21\nN2G99X1\n");
  expect(await caller.until((l) => l.startsWith("refused"))).toBe(
    'refused line 2, "N2G99X1": G99 is not known here',
  );
});

test("it takes as long as its clock says: a pause between puts the beam off at once, in the middle of a row too", async () => {
  await setFaults({ pace: 20 });
  const caller = new Caller(port);
  await caller.until((l) => l.startsWith("hello"));
  caller.say(`JOB 7\n${lines.join("\n")}\n`);
  await caller.until((l) => l.startsWith("at"));
  caller.signal(PAUSE);
  const held = await caller.until((l) => l.startsWith("is held"));
  const { markedMm, executed } = machine.state;
  expect(Number(held.split(" ")[2])).toBe(executed);
  await new Promise((r) => setTimeout(r, 150));
  expect(machine.state).toMatchObject({ mode: "held", markedMm, executed });
  expect(executed).toBeLessThan(lines.length);
  // Lines that were under way are not kept for later.
  caller.say(`${lines.slice(-3).join("\n")}\n`);
  const again = new Caller(port);
  expect(await again.until((l) => l.startsWith("refused"))).toMatch(/somebody else/);
  caller.socket.destroy();
  await new Promise((r) => setTimeout(r, 50));
  const next = new Caller(port);
  const [, , , ...from] = (await next.until((l) => l.startsWith("hello"))).split(" ");
  await next.send("7", lines, from.join(" "), laser);
  await next.until((l) => l.startsWith("done"));
  const { png, twice } = await burned();
  expect([png.equals(wanted), twice]).toEqual([true, 0]);
});

/** A run broken off again and again at moments by chance, in one way or another, and gone on with each time. */
async function brokenOff(
  profile: Machine,
  program_: readonly string[],
  pace: number,
  ways: number,
): Promise<number> {
  let times = 0;
  for (;;) {
    const caller = new Caller(port);
    const [, , , ...from] = (await caller.until((l) => l.startsWith("hello"))).split(" ");
    await setFaults({ pace: times < ways ? pace : 0 });
    const alive = setInterval(() => caller.signal(ENQUIRY), 300);
    await caller.send("9", program_, from.join(" "), profile);
    const done = caller.until((l) => l.startsWith("done"));
    if (times < ways) {
      const wait = 5 + ((times * 7919) % 97) * 2;
      await Promise.race([done, new Promise((r) => setTimeout(r, wait))]);
      const way = times % 3;
      if (way === 0) caller.signal(PAUSE);
      if (way === 1) caller.signal(STOP);
      if (way < 2) await caller.until((l) => /^(is (held|done)|stopped|done)/.test(l));
    } else await done;
    clearInterval(alive);
    caller.socket.destroy();
    await new Promise((r) => setTimeout(r, 30));
    times++;
    if (machine.state.done) return times;
  }
}

test("paused, stopped or cut off at forty moments, in rows and between them: each dot is burned once", async () => {
  expect(await brokenOff(laser, lines, 4, 40)).toBeGreaterThan(10);
  const { png, twice } = await burned();
  expect([png.equals(wanted), twice]).toEqual([true, 0]);
});

test("the same of a knife: every line is cut once, from its beginning to its end", async () => {
  await machine.close();
  await floor.close();
  const [, knife] = USUAL_MACHINES;
  await start(knife);
  const set = pathSetOf({ name: "cut", use: "through", colour: 0 }, [
    { knots: rectangleKnots(5, 5, 60, 40), closed: true },
    { knots: rectangleKnots(15, 15, 20, 12), closed: true },
  ]);
  const cut: Job = { name: "Two", widthMm: 70, heightMm: 50, bitmaps: [], sets: [set] };
  const plan = runToEnd(planRun(cut, knife, runWish.parse({})));
  const plot = new TextDecoder().decode(plan.program.bytes).trimEnd().split("\n");
  expect(await brokenOff(knife, plot, 2, 30)).toBeGreaterThan(8);
  const { moves } = plan.program;
  let wantedMm = 0;
  for (let k = 0; k < moves.count; k++)
    if (moves.power[k] > 0) wantedMm += Math.hypot(moves.x[k + 1] - moves.x[k], moves.y[k + 1] - moves.y[k]);
  // Where the knife was lowered again it is put down within a thousandth of a millimetre.
  expect(Math.abs(machine.state.markedMm - wantedMm)).toBeLessThan(0.001 * 31);
});

test("a machine that hears nothing for two seconds puts its beam off by itself; a sign of life keeps it going", async () => {
  await setFaults({ pace: 0.5 });
  const caller = new Caller(port);
  await caller.until((l) => l.startsWith("hello"));
  caller.say(`JOB 7\n${lines.join("\n")}\n`);
  const alive = setInterval(() => caller.signal(ENQUIRY), 500);
  await new Promise((r) => setTimeout(r, 2600));
  clearInterval(alive);
  expect(machine.state.mode).toBe("going");
  expect(await caller.until((l) => l.startsWith("is quiet"))).toMatch(/^is quiet \d+ /);
  const { markedMm } = machine.state;
  expect(markedMm).toBeGreaterThan(0);
  await new Promise((r) => setTimeout(r, 200));
  expect(machine.state).toMatchObject({ mode: "quiet", markedMm });
});

test("a stop that is sent behind a thousand lines, in the same breath, is acted on before they are read", async () => {
  const caller = new Caller(port);
  await caller.until((l) => l.startsWith("hello"));
  caller.say("JOB 7\n");
  await caller.until((l) => l.startsWith("begin"));
  caller.socket.write(Buffer.concat([Buffer.from(`${lines.join("\n")}\n`), Buffer.of(STOP)]));
  expect(await caller.until((l) => l.startsWith("stopped"))).toBe("stopped 0 0.000 7");
  expect(machine.state).toMatchObject({ mode: "stopped", markedMm: 0 });
});

test("a controller that leaves the beam as it is in G0 burns the same: every travel says S0", async () => {
  await setFaults({ beamInTravel: true });
  const caller = new Caller(port);
  await caller.until((l) => l.startsWith("hello"));
  caller.say(`JOB 7\n${lines.join("\n")}\n`);
  await caller.until((l) => l.startsWith("done"));
  const { png, twice } = await burned();
  expect([png.equals(wanted), twice]).toEqual([true, 0]);
  expect(machine.marked.every(([, , y0, , y1]) => y0 === y1)).toBe(true);
});

test("its floor is called from this machine alone, and takes no nonsense", async () => {
  const { port: at } = new URL(floorUrl);
  const status = (path: string, headers: Record<string, string>, method = "GET") =>
    new Promise<number>((done) => {
      request({ port: at, host: "127.0.0.1", path, method, headers }, (r) => {
        r.resume();
        done(r.statusCode!);
      }).end();
    });
  expect(await status("/", { Host: `127.0.0.1:${at}` })).toBe(200);
  expect(await status("/", { Host: `rebound.example:${at}` })).toBe(403);
  expect(await status("/clear", { Host: `127.0.0.1:${at}`, Origin: "http://evil.example" }, "POST")).toBe(
    403,
  );
  expect((await setFaults({ pace: "fast" })).status).toBe(400);
  expect((await setFaults({ __proto__: null, odd: 1 })).status).toBe(400);
  expect(machine.faults.pace).toBe(0);
  expect((await fetch(`${floorUrl}/burned?width=1e9&height=1e9`)).status).toBe(400);
});
