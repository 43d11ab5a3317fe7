import {
  finish,
  GcodeReader,
  newBits,
  planRun,
  runWish,
  USUAL_MACHINES,
  writeBitsPng,
  type Bits,
  type Job,
  type Machine,
} from "@hardline/core";
import { mkdtempSync, rmSync } from "node:fs";
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
const { program } = finish(planRun(job, laser, runWish.parse({})));
const lines = new TextDecoder().decode(program.bytes).trimEnd().split("\n");

async function burned(): Promise<{ png: Buffer; twice: number }> {
  const [x, y] = program.at;
  const query = `width=160&height=60&dotsPerInch=254&xMm=${x}&topMm=${laser.bed.heightMm - y}`;
  const response = await fetch(`${floorUrl}/burned?${query}`);
  return { png: Buffer.from(await response.arrayBuffer()), twice: Number(response.headers.get("X-Twice")) };
}
const wanted = Buffer.from(finish(writeBitsPng(bits, 254)));
const setFaults = (faults: object) =>
  fetch(`${floorUrl}/faults`, { method: "POST", body: JSON.stringify(faults) });

test("a whole program: every line is acknowledged, what it burned is the bitmap", async () => {
  const caller = new Caller(port);
  expect(await caller.until((l) => l.startsWith("hello"))).toBe("hello bed-laser - 0");
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
    const [, , jobId, executed] = (await second.until((l) => l.startsWith("hello"))).split(" ");
    expect(jobId).toBe("7");
    expect(Number(executed)).toBeGreaterThanOrEqual(at);
    expect(Number(executed)).toBeLessThan(lines.length);
    // What stands, which the machine may have forgotten, the run-up where a row was broken off, and then what is left.
    const reader = new GcodeReader(laser);
    lines.slice(0, Number(executed)).forEach((text, k) => reader.read(text, k + 1));
    const again = [...reader.standing, ...reader.runUpTo(lines[Number(executed)], laser)];
    second.say(`JOB 7\n${[...again, ...lines.slice(Number(executed))].join("\n")}\n`);
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
  expect(await second.until((l) => l.startsWith("begin"))).toBe("begin 0");
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

test("HOLD stops at the end of a row, GO goes on, and it takes as long as its clock says", async () => {
  await setFaults({ pace: 20 });
  const caller = new Caller(port);
  await caller.until((l) => l.startsWith("hello"));
  caller.say(`JOB 7\n${lines.join("\n")}\n`);
  await caller.until((l) => l.startsWith("at"));
  caller.say("HOLD\n");
  await new Promise((r) => setTimeout(r, 150));
  const held = machine.state.executed;
  await new Promise((r) => setTimeout(r, 150));
  expect(machine.state.executed).toBe(held);
  expect(held).toBeLessThan(lines.length);
  caller.say("GO\n");
  await caller.until((l) => l.startsWith("done"));
  const { png, twice } = await burned();
  expect([png.equals(wanted), twice]).toEqual([true, 0]);
});
