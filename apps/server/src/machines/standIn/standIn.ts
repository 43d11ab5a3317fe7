import {
  asBuilt,
  Controller,
  finish,
  GcodeReader,
  HpglReader,
  printerMoves,
  ProgramError,
  type Machine,
  type Made,
  type Move,
} from "@hardline/core";
import { createServer, type Server, type Socket } from "node:net";
import { decodedBits } from "./decodedBits";
import { NO_FAULTS, type Faults } from "./faults";
import { Journal, type Stretch } from "./journal";
import { eyeSees, type PrintedSheet } from "./printedSheet";

const TICK_MS = 15;
/** Moves that wait to be made, at most: what a machine's memory holds. */
const MOST_WAITING = 2400;

/**
 * A simulated machine: it takes programs over TCP as the real kind does, runs them at its own speed, and keeps what it marked
 * through loss of the line, of power and of its own process. What it says besides what the format has:
 *
 *   hello KEY JOB EXECUTED    whoever calls is told what lies on the bed, and up to which line it was done
 *   ok LINE                   the line is taken
 *   at LINE SECONDS           so far it is done
 *   done SECONDS              the program is at its end
 *   jam LINE, refused WHY     it stands still until somebody has been there
 *
 * and what it is told: JOB ID, a fresh piece, if it is another than the one on the bed; HOLD and GO, at the end of a row;
 * STOP; EYE X Y.
 */
export class StandIn {
  readonly faults: Faults = { ...NO_FAULTS };
  sheet: PrintedSheet | null = null;
  private server: Server | null = null;
  private port = 0;
  private socket: Socket | null = null;
  private readonly journal: Journal;
  private controller: Controller;
  private gcode!: GcodeReader;
  private hpgl!: HpglReader;
  private job: string | null = null;
  private executed = 0;
  private doneSeconds = 0;
  private isDone = false;
  private ends = false;
  private jammed = false;
  private held = false;
  /** Lines that came and are not read yet. */
  private lines: string[] = [];
  private rest = Buffer.alloc(0);
  private binary: { need: number; parts: Buffer[] } | null = null;
  private taken = 0;
  /** Moves whose making is certain, in the order of their time. */
  private made: (Made & { asks?: number; last?: true })[] = [];
  private stretches: Stretch[] = [];
  private fresh: Stretch[] = [];
  /** Marked by lines that do not count as done yet. */
  private readonly unsettled: Stretch[] = [];
  private clockFrom = { wall: 0, machine: 0 };
  private timer?: NodeJS.Timeout;
  private told = 0;
  private greeted = false;
  private atPlace: readonly [number, number] = [0, 0];

  constructor(
    readonly machine: Machine,
    folder: string,
    pace = 1,
  ) {
    this.faults.pace = pace;
    this.journal = new Journal(`${folder}/${machine.key}.journal`);
    this.controller = new Controller(asBuilt(machine));
    this.wake();
  }

  get state() {
    const { job, executed, jammed, held, isDone } = this;
    return { job, executed, jammed, held, done: isDone, seconds: this.doneSeconds };
  }

  /** All that lies marked on the bed. */
  get marked(): readonly Stretch[] {
    return this.stretches;
  }

  async listen(port: number): Promise<number> {
    this.port = port;
    const server = createServer((socket) => this.called(socket));
    this.server = server;
    await new Promise<void>((ready, failed) => {
      server.once("error", failed);
      server.listen(port, "127.0.0.1", ready);
    });
    this.port = (server.address() as { port: number }).port;
    this.timer = setInterval(() => this.tick(), TICK_MS);
    return this.port;
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    this.socket?.destroy();
    await new Promise((closed) => (this.server ? this.server.close(closed) : closed(null)));
    this.server = null;
  }

  /** Switched off, what it was about to do is lost, and nobody answers; switched on, it knows what lies on its bed. */
  async power(on: boolean): Promise<void> {
    if (on === !this.faults.off) return;
    this.faults.off = !on;
    if (on) {
      this.wake();
      await this.listen(this.port);
    } else await this.close();
  }

  /** Somebody was there: the jam is cleared, or a fresh piece lies on the bed. */
  clearJam(): void {
    this.jammed = false;
  }

  private wake(): void {
    const known = this.journal.read();
    this.job = known.job;
    this.executed = known.executed;
    this.doneSeconds = known.seconds;
    this.isDone = known.done;
    this.stretches = known.stretches;
    this.atPlace = [known.x, known.y];
    this.controller.standAt(known.x, known.y, known.seconds);
    this.forget();
  }

  /** What was not made is forgotten: whoever calls next says it again. */
  private forget(): void {
    this.gcode = new GcodeReader(this.machine, this.controller.place);
    const { travelMmPerS } = this.machine;
    const knife = this.machine.kind === "knife-cutter" ? this.machine : { cutMmPerS: 1, liftMs: 0 };
    this.hpgl = new HpglReader({ travelMmPerS, cutMmPerS: knife.cutMmPerS, liftMs: knife.liftMs });
    [this.lines, this.made, this.held, this.ends] = [[], [], false, false];
    this.unsettled.length = 0;
    this.taken = this.executed;
  }

  private called(socket: Socket): void {
    socket.on("error", () => {});
    socket.setNoDelay(true);
    if (this.faults.refuse || this.jammed || this.socket) {
      const why = this.faults.refuse ?? (this.jammed ? "jammed" : "somebody else is connected");
      socket.end(`refused ${why}\n`);
      return;
    }
    this.socket = socket;
    this.greeted = false;
    [this.rest, this.binary] = [Buffer.alloc(0), null];
    socket.on("data", (data) => this.came(data));
    socket.on("close", () => {
      if (this.socket !== socket) return;
      this.socket = null;
      this.lineLost();
    });
  }

  /** Nobody tells it anything more: what is certain is made to the end, what was only waiting is not begun. */
  private lineLost(): void {
    this.controller.halt();
    this.lines = [];
  }

  private say(text: string): void {
    this.socket?.write(`${text}\n`);
  }

  private came(data: Buffer): void {
    if (this.binary) return this.cameBinary(data);
    this.rest = Buffer.concat([this.rest, data]);
    for (let end = this.rest.indexOf(10); end >= 0 && !this.binary; end = this.rest.indexOf(10)) {
      const text = this.rest.subarray(0, end).toString("utf8");
      this.rest = this.rest.subarray(end + 1);
      this.heard(text);
    }
  }

  private cameBinary(data: Buffer): void {
    const { binary } = this;
    binary!.parts.push(data);
    const all = Buffer.concat(binary!.parts);
    if (all.length < binary!.need) return;
    this.binary = null;
    void this.print(all.subarray(0, binary!.need));
  }

  private heard(text: string): void {
    const [word, ...rest] = text.trim().split(" ");
    if (word === "JOB") this.begin(rest[0]);
    else if (word === "HOLD") this.held = true;
    else if (word === "GO") this.goOn();
    else if (word === "STOP") this.stop();
    else if (word === "EYE") this.look(Number(rest[0]), Number(rest[1]));
    else if (word === "TIFF") {
      this.binary = { need: Number(rest[0]), parts: [] };
      const early = this.rest;
      this.rest = Buffer.alloc(0);
      this.cameBinary(early);
    } else this.lines.push(text);
  }

  private begin(job: string): void {
    if (job !== this.job) {
      this.journal.begin(job);
      [this.job, this.executed, this.doneSeconds, this.isDone] = [job, 0, 0, false];
      this.stretches = [];
      this.forget();
      this.controller = new Controller(asBuilt(this.machine));
    }
    this.taken = this.executed;
    this.clockFrom = { wall: Date.now(), machine: this.controller.seconds };
    this.say(`begin ${this.executed}`);
  }

  private goOn(): void {
    this.held = false;
    this.clockFrom = { wall: Date.now(), machine: this.made[0]?.from ?? this.controller.seconds };
  }

  private stop(): void {
    this.controller.standAt(...this.atPlace, this.doneSeconds);
    [this.lines, this.made, this.held] = [[], [], false];
    this.say("stopped");
  }

  private look(x: number, y: number): void {
    if (!this.sheet) return this.say("eye none");
    const { width, height, mmPerPixel, data } = eyeSees(this.sheet, x, y, Math.round(x * 7 + y * 13) + 1);
    this.say(`eye ${width} ${height} ${mmPerPixel} ${Buffer.from(data).toString("base64")}`);
  }

  /** A film printer's picture: all of it at once. Swaths that were printed already are not printed again. */
  private async print(bytes: Buffer): Promise<void> {
    if (this.machine.kind !== "film-printer") return this.say("refused what is no program");
    const found = await decodedBits(bytes).catch(() => null);
    if (!found) return this.say("refused what is no 1-bit TIFF");
    const moves = finish(printerMoves(found.bits, found.dotsPerInch, this.machine));
    for (let k = 0; k < moves.count; k++) {
      if (moves.line[k] <= this.executed) continue;
      const [x, y, power, speed] = [moves.x[k + 1], moves.y[k + 1], moves.power[k], moves.speed[k]];
      this.made.push(...this.controller.take({ x, y, power, speed, pause: 0, line: moves.line[k] }));
    }
    this.made.push(...this.controller.rest());
    this.ends = true;
    this.clockFrom = { wall: Date.now(), machine: this.made[0]?.from ?? 0 };
  }

  /** Reads lines while there is room, makes what its clock allows, and says how far it is. */
  private tick(): void {
    if (this.jammed) return;
    if (this.socket && this.greeted) this.read();
    this.run();
    // Whoever calls is told how far it is once what was certain is made.
    if (this.socket && !this.greeted && this.made.length === 0) this.greet();
  }

  private greet(): void {
    this.greeted = true;
    this.forget();
    this.say(`hello ${this.machine.key} ${this.job ?? "-"} ${this.executed}`);
  }

  private read(): void {
    let asleep = this.made.length === 0;
    let oks = 0;
    while (this.lines.length > oks && this.made.length + this.controller.waits < MOST_WAITING && !this.ends) {
      const text = this.lines[oks++];
      // Lines without a number only say again what stands: they are not counted.
      const numbered = this.machine.kind === "knife-cutter" || /^N\d/.test(text);
      if (numbered) this.taken++;
      try {
        this.make(text, numbered ? this.taken : this.executed);
      } catch (error) {
        if (!(error instanceof ProgramError)) throw error;
        this.say(`refused ${error.message}`);
        this.socket?.end();
        return;
      }
      if (asleep && this.made.length > 0) {
        // It has stood still: its clock goes on from now.
        asleep = false;
        this.clockFrom = { wall: Date.now(), machine: this.made[0].from };
      }
    }
    if (oks > 0) {
      this.lines.splice(0, oks);
      this.say(`ok ${this.taken}`);
    }
  }

  private make(text: string, line: number): void {
    if (this.machine.kind === "knife-cutter") {
      const { moves, asks } = this.hpgl.read(text, line);
      for (const move of moves) this.took(move, line);
      this.made.push(...this.controller.rest());
      if (asks > 0 || moves.length === 0) this.marker(line, asks);
      if (text.startsWith("PU0,0;SP0")) this.ends = true;
      return;
    }
    const { move, end } = this.gcode.read(text, line);
    if (move) this.took(move, line);
    if (end) {
      this.made.push(...this.controller.rest());
      this.marker(line, 0);
      this.ends = true;
    }
  }

  private took(move: Move, line: number): void {
    this.made.push(...this.controller.take({ ...move, line }));
  }

  /** A line that moves nothing is done when everything before it is. */
  private marker(line: number, asks: number): void {
    const at = this.made.at(-1)?.to ?? this.controller.seconds;
    const [x, y] = this.controller.place;
    this.made.push({ line, from: at, to: at, x, y, burned: [], asks });
  }

  private run(): void {
    const { pace, loseLineAt, jamAt } = this.faults;
    const now =
      pace === 0 ? Infinity : this.clockFrom.machine + ((Date.now() - this.clockFrom.wall) / 1000) * pace;
    let done = 0;
    let settled = false;
    for (const one of this.made) {
      if (one.to > now || this.jammed) break;
      if (this.held && one.burned.length === 0 && one.line !== this.executed) break;
      done++;
      for (const { x0, y0, x1, y1 } of one.burned) this.unsettled.push([one.line, x0, y0, x1, y1]);
      for (let k = 0; k < (one.asks ?? 0); k++)
        this.say(`${Math.round(one.x * 1000)},${Math.round(one.y * 1000)},0`);
      // While the beam is on nothing counts as done: it answers late, and a mark would be short of its end.
      if (one.burned.length > 0) continue;
      settled = true;
      for (const stretch of this.unsettled.splice(0)) this.fresh.push(stretch);
      this.executed = Math.max(this.executed, one.line);
      this.doneSeconds = one.to;
      this.atPlace = [one.x, one.y];
      if (loseLineAt !== null && this.executed >= loseLineAt) {
        this.faults.loseLineAt = null;
        this.made.splice(0, done);
        this.flush();
        this.cutLine();
        return;
      }
      if (jamAt !== null && this.executed >= jamAt) {
        this.faults.jamAt = null;
        this.jammed = true;
      }
    }
    this.made.splice(0, done);
    if (this.jammed) {
      this.flush();
      this.say(`jam ${this.executed}`);
      this.controller.standAt(...this.atPlace, this.doneSeconds);
      [this.made, this.lines] = [[], []];
      this.socket?.end();
    }
    if (settled) this.flush(); // before anybody is told
    if (settled && this.executed !== this.told) {
      this.told = this.executed;
      this.say(`at ${this.executed} ${this.doneSeconds.toFixed(3)}`);
    }
    if (this.ends && this.made.length === 0 && !this.isDone) {
      this.isDone = true;
      this.flush();
      this.say(`done ${this.doneSeconds.toFixed(3)}`);
    }
  }

  /** The line breaks: what was certain is still made, and nothing else. */
  private cutLine(): void {
    const { socket } = this;
    this.socket = null;
    socket?.destroy();
    this.lineLost();
  }

  /** Writes down what was marked since the last time. */
  private flush(): void {
    for (const stretch of this.fresh) this.stretches.push(stretch);
    const [x, y] = this.atPlace;
    const { executed, isDone: done, doneSeconds: seconds } = this;
    this.journal.add({ executed, seconds, x, y, done, stretches: this.fresh });
    this.fresh = [];
  }
}
