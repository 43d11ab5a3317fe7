import { CodeFilter, ENQUIRY, PAUSE, SILENCE_MS, STOP } from "@hardline/core/machine/codes";
import { GcodeReader, ProgramError } from "@hardline/core/machine/gcode";
import { HpglReader } from "@hardline/core/machine/hpgl";
import { machineKindOf, type Machine } from "@hardline/core/machine/machine";
import { type Move } from "@hardline/core/machine/moves";
import { drive } from "@hardline/core/maths/work";
import {
  burnedBetween,
  Controller,
  wayAt,
  type ControllerMachine,
  type Made,
} from "@hardline/core/simulator/controller";
import { asBuilt } from "@hardline/core/simulator/simulate";
import { createServer, type Server, type Socket } from "node:net";
import { NO_FAULTS, type Faults } from "./faults";
import { Journal, type Stretch } from "./journal";
import { cameraSees, type PrintedSheet } from "./printedSheet";

const TICK_MS = 15;
/** Moves that wait to be made, at most: what a machine's memory holds. */
const MOST_WAITING = 2400;
/** Longer lines are no program. */
const LONGEST_LINE = 4 << 20;

/** going: it takes lines and makes them. Everything else: the beam is off, and it stands. */
type Mode = "idle" | "going" | "held" | "quiet" | "stopped" | "jammed" | "done";

/** A move that is made, or a line that moves nothing; `asks`: answers that are wished once it is done. */
/** Programs that a cutter takes. */
const PLOT = "application/vnd.hp-hpgl";

interface Making extends Made {
  readonly asks: number;
}

/**
 * A simulated machine: it takes programs over TCP as the real kind does, runs them at its own speed, and keeps what it marked
 * through loss of the line, of power and of its own process. docs/machines.md says what it is told and what it answers.
 *
 * Pause, stop, silence, a jam and a lost line are one thing to it: the beam goes off at once, whatever waited is forgotten,
 * and it knows where the work ended, in the middle of a line too.
 */
export class StandIn {
  readonly faults: Faults = { ...NO_FAULTS };
  sheet: PrintedSheet | null = null;
  private server: Server | null = null;
  private port = 0;
  private socket: Socket | null = null;
  private readonly built: ControllerMachine;
  private readonly late: number;
  private readonly journal: Journal;
  private controller: Controller;
  private gcode!: GcodeReader;
  private hpgl!: HpglReader;
  private mode: Mode = "idle";
  private job: string | null = null;
  private executed = 0;
  private doneSeconds = 0;
  private ends = false;
  /** Lines that came and are not read yet; `counted`: a line of the program, not one that says again what stands. */
  private lines: { readonly text: string; readonly counted: boolean }[] = [];
  private filter = new CodeFilter();
  private rest = Buffer.alloc(0);
  private binary: { need: number; parts: Buffer[] } | null = null;
  private taken = 0;
  private heardAt = 0;
  /** Lines and bytes that came since it was switched on. */
  private received = 0;
  /** Of lines that have several moves: how many, and which is the first that marks. */
  private readonly movesOf = new Map<number, { count: number; first: number }>();
  /** Moves whose making is certain, in the order of their time; how far along the first of them it is. */
  private made: Making[] = [];
  private wayMade = 0;
  /** Made, while the beam, which answers late, may still be at them. */
  private settling: Making[] = [];
  private stretches: Stretch[] = [];
  private fresh: Stretch[] = [];
  private markedMm = 0;
  private clockFrom = { wall: 0, machine: 0 };
  private timer?: NodeJS.Timeout;
  private told = 0;
  /** Where in the next line the work ended, and moves of it that are left. */
  private stands = { x: 0, y: 0, left: 0 };

  constructor(
    readonly machine: Machine,
    folder: string,
    pace = 1,
  ) {
    this.faults.pace = pace;
    this.journal = new Journal(`${folder}/${machine.key}.journal`);
    this.built = asBuilt(machine);
    this.late = (this.built.responseMs ?? 0) / 1000;
    this.controller = new Controller(this.built);
    this.wake();
  }

  get state() {
    const { job, executed, mode, received, markedMm } = this;
    const [jammed, held, done] = [mode === "jammed", mode === "held", mode === "done"];
    return { job, executed, mode, jammed, held, done, received, markedMm, seconds: this.doneSeconds };
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
    this.cutLine();
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

  /** Somebody was there: the jam is cleared. */
  clearJam(): void {
    if (this.mode === "jammed") this.mode = "idle";
  }

  private wake(): void {
    const { job, executed, seconds, done, stretches, x, y, left } = this.journal.read();
    [this.job, this.executed, this.doneSeconds, this.stretches] = [job, executed, seconds, stretches];
    this.mode = done ? "done" : "idle";
    this.stands = { x, y, left };
    this.forget();
  }

  /** What waited is forgotten, and what stood; the head is where the work ended. */
  private forget(): void {
    const { x, y } = this.stands;
    this.controller.standAt(x, y, this.doneSeconds);
    this.gcode = new GcodeReader(
      { travelMmPerS: this.machine.travelMmPerS, beamInTravel: this.faults.beamInTravel },
      [x, y],
    );
    const { travelMmPerS } = this.machine;
    const { cutMmPerS, liftMs } = { cutMmPerS: 1, liftMs: 0, ...this.machine };
    this.hpgl = new HpglReader({ travelMmPerS, cutMmPerS, liftMs });
    [this.lines, this.made, this.settling, this.wayMade, this.ends] = [[], [], [], 0, false];
    this.movesOf.clear();
    this.taken = this.executed;
  }

  private called(socket: Socket): void {
    socket.on("error", () => {});
    socket.setNoDelay(true);
    if (this.faults.refuse !== null || this.mode === "jammed" || this.socket) {
      const why = this.faults.refuse ?? (this.mode === "jammed" ? "jammed" : "somebody else is connected");
      socket.end(`refused ${why}\n`);
      return;
    }
    this.socket = socket;
    this.heardAt = Date.now();
    [this.rest, this.binary, this.filter] = [Buffer.alloc(0), null, new CodeFilter()];
    socket.on("data", (data) => this.came(data));
    socket.on("close", () => {
      if (this.socket !== socket) return;
      this.socket = null;
      this.breakOff("held");
    });
    setTimeout(() => {
      if (this.socket === socket)
        this.say(`hello ${this.machine.key} ${this.job ?? "-"} ${this.executed} ${this.standing}`);
    }, this.faults.greetAfterMs);
  }

  private get standing(): string {
    const { x, y, left } = this.stands;
    return `${Math.round(x * 1e4) / 1e4} ${Math.round(y * 1e4) / 1e4} ${left}`;
  }

  private say(text: string): void {
    this.socket?.write(`${text}\n`);
  }

  private sayHow(): void {
    this.say(`is ${this.mode} ${this.executed} ${this.doneSeconds.toFixed(3)} ${this.job ?? "-"}`);
  }

  private came(arrived: Buffer): void {
    this.heardAt = Date.now();
    let from = 0;
    const all = this.filter.take(arrived, (code, before) => {
      if (!this.signalled(code)) return;
      // What came before is forgotten with everything else.
      [this.rest, this.binary, from] = [Buffer.alloc(0), null, before];
    });
    const data = Buffer.from(all.subarray(from));
    if (data.length === 0) return;
    if (this.binary) return this.cameBinary(data);
    this.rest = this.rest.length > 0 ? Buffer.concat([this.rest, data]) : data;
    if (this.rest.length > LONGEST_LINE) {
      this.say("refused a line without an end");
      this.socket?.end();
      return;
    }
    for (let end = this.rest.indexOf(10); end >= 0 && !this.binary; end = this.rest.indexOf(10)) {
      const text = this.rest.subarray(0, end).toString("utf8");
      this.rest = this.rest.subarray(end + 1);
      this.heard(text.trim());
    }
  }

  private cameBinary(data: Buffer): void {
    const { binary } = this;
    binary!.parts.push(data);
    binary!.need -= data.length;
    if (binary!.need > 0) return;
    this.binary = null;
    const all = Buffer.concat(binary!.parts);
    void this.print(all.subarray(0, all.length + binary!.need));
  }

  /** A code is acted on as it comes, whatever waits. @returns whether it was told to stand still */
  private signalled(code: number): boolean {
    if (code === ENQUIRY) this.sayHow();
    if (code === ENQUIRY || this.faults.deaf) return false;
    if (code === PAUSE) this.pause();
    else this.stop();
    return true;
  }

  private pause(): void {
    if (this.mode === "going") this.breakOff("held");
    this.sayHow();
  }

  private stop(): void {
    if (this.mode === "done") return this.sayHow();
    this.breakOff("stopped");
    if (this.mode !== "jammed") this.mode = "stopped";
    this.say(`stopped ${this.executed} ${this.doneSeconds.toFixed(3)} ${this.job ?? "-"}`);
  }

  private heard(text: string): void {
    if (text === "") return;
    const [word, ...more] = text.split(" ");
    if (word === "JOB") this.begin(more[0]);
    else if (word === "HOLD") this.signalled(PAUSE);
    else if (word === "STOP") this.signalled(STOP);
    else if (word === "LOOK") this.look(Number(more[0]), Number(more[1]));
    else if (word === "TIFF") {
      this.binary = { need: Math.min(Number(more[0]) || 0, 1 << 30), parts: [] };
      const early = this.rest;
      this.rest = Buffer.alloc(0);
      this.cameBinary(early);
    } else if (this.mode === "going") {
      this.received++;
      if (word === "SET") this.lines.push({ text: text.slice(4), counted: false });
      else this.lines.push({ text, counted: true });
    }
  }

  private begin(job = "-"): void {
    if (job !== this.job) {
      this.journal.begin(job);
      [this.job, this.executed, this.doneSeconds, this.stretches] = [job, 0, 0, []];
      this.stands = { x: 0, y: 0, left: 0 };
      this.markedMm = 0;
      this.controller = new Controller(this.built);
      this.mode = "idle";
    }
    this.breakOff("held");
    if (this.mode !== "done") this.mode = "going";
    this.forget();
    this.told = this.executed;
    this.clockFrom = { wall: Date.now(), machine: this.controller.seconds };
    this.say(`begin ${this.executed} ${this.standing}`);
    if (this.mode === "done") this.say(`done ${this.doneSeconds.toFixed(3)}`);
  }

  /** The beam off at once: what was made up to now stands, and where it ended; what waited is forgotten. */
  private breakOff(mode: Mode): void {
    if (this.mode !== "going") return;
    const now = this.now();
    if (now !== Infinity) {
      this.makeUpTo(now);
      const broken = this.settling[0] ?? this.made[0];
      if (broken) this.standIn(broken, now - this.late);
    }
    this.flush();
    this.mode = mode;
    this.forget();
  }

  /** The work ended in the middle of a move; before anything of its line was marked, it ended where it did before. */
  private standIn(move: Making, second: number): void {
    const { count, first } = this.movesOf.get(move.line) ?? { count: 1, first: 0 };
    const way = wayAt(move, second, this.built.accelMmPerS2);
    if (move.line === 0 || move.part < first || (move.part === 0 && way === 0)) return;
    const share = move.length > 0 ? way / move.length : 0;
    this.executed = Math.max(this.executed, move.line - 1);
    this.stands = {
      x: move.x0 + (move.x - move.x0) * share,
      y: move.y0 + (move.y - move.y0) * share,
      left: count - move.part,
    };
    this.doneSeconds = Math.max(this.doneSeconds, Math.min(second, move.to));
  }

  private look(x: number, y: number): void {
    if (!this.sheet) return this.say("seen none");
    const { width, height, mmPerPixel, data } = cameraSees(this.sheet, x, y, Math.round(x * 7 + y * 13) + 1);
    this.say(`seen ${width} ${height} ${mmPerPixel} ${Buffer.from(data).toString("base64")}`);
  }

  /** A film printer's picture: all of it at once. Swaths that were printed already are not printed again. */
  private async print(bytes: Buffer): Promise<void> {
    const kind = machineKindOf(this.machine);
    if (kind.program.sent !== "whole") return this.say("refused what is no program");
    const { job } = this;
    const moves = await drive(kind.moves(bytes, this.machine)).catch(() => null);
    if (!moves) return this.say("refused what is no 1-bit TIFF");
    if (this.mode !== "going" || job !== this.job) return; // it was stopped while that was read
    const { x: from, left } = this.stands;
    for (let k = 0; k < moves.count; k++) {
      const known = this.movesOf.get(moves.line[k]) ?? { count: 0, first: Infinity };
      const first = moves.power[k] > 0 ? Math.min(known.first, known.count) : known.first;
      this.movesOf.set(moves.line[k], { count: known.count + 1, first });
    }
    for (let k = 0; k < moves.count; k++) {
      if (moves.line[k] <= this.executed) continue;
      const move = {
        ...{ x: moves.x[k + 1], y: moves.y[k + 1], power: moves.power[k], speed: moves.speed[k] },
      };
      const at = { ...move, pause: 0, line: moves.line[k] };
      // A swath that was broken off is run again from its beginning, dark up to where it ended.
      const again = moves.line[k] === this.executed + 1 && left > 0 && left <= 2;
      const marks = again && moves.power[k + 1] > 0 && moves.line[k + 1] === moves.line[k];
      if (again && left === 1 && move.power > 0) this.take({ ...at, power: 0 });
      else this.take(marks && left === 2 ? { ...at, x: from } : at);
    }
    this.add(this.controller.rest());
    this.ends = true;
    this.clockFrom = { wall: Date.now(), machine: this.made[0]?.from ?? 0 };
  }

  /** Reads lines while there is room, makes what its clock allows, and says how far it is. */
  private tick(): void {
    if (this.mode !== "going") return;
    if (this.socket && Date.now() - this.heardAt > SILENCE_MS) {
      this.breakOff("quiet");
      return this.sayHow();
    }
    if (this.socket) this.read();
    if (this.mode === "going") this.run();
  }

  private read(): void {
    let asleep = this.made.length === 0;
    let read = 0;
    while (
      this.lines.length > read &&
      this.made.length + this.controller.waits < MOST_WAITING &&
      !this.ends
    ) {
      const { text, counted } = this.lines[read++];
      if (counted) this.taken++;
      try {
        this.make(text, counted ? this.taken : 0);
      } catch (error) {
        if (!(error instanceof ProgramError)) throw error;
        this.say(`refused ${error.message}`);
        this.socket?.end();
        return;
      }
      if (asleep && this.made.length > 0) {
        // It has stood still: its clock goes on from now.
        asleep = false;
        this.makeUpTo(Infinity, true);
        this.clockFrom = { wall: Date.now(), machine: this.made[0].from };
      }
    }
    if (read > 0) {
      this.lines.splice(0, read);
      this.say(`ok ${this.taken}`);
    }
  }

  /** @param line  0 where it only says again what stands */
  private make(text: string, line: number): void {
    if (machineKindOf(this.machine).program.mediaType === PLOT) {
      const { moves, asks } = this.hpgl.read(text, line);
      if (moves.length > 0)
        this.movesOf.set(line, {
          count: moves.length,
          first: Math.max(
            0,
            moves.findIndex((m) => m.power > 0),
          ),
        });
      for (const move of moves) this.take({ ...move, line });
      this.add(this.controller.rest());
      if (line > 0 && (asks > 0 || moves.length === 0)) this.marker(line, asks);
      if (text.startsWith("PU0,0;SP0")) this.ends = true;
      return;
    }
    const { move, end } = this.gcode.read(text, line);
    if (move) this.take({ ...move, line });
    if (end) {
      this.add(this.controller.rest());
      this.marker(line, 0);
      this.ends = true;
    }
  }

  private take(move: Move): void {
    this.add(this.controller.take(move));
  }

  private add(made: readonly Made[]): void {
    for (const one of made) this.made.push({ ...one, asks: 0 });
  }

  /** A line that moves nothing is done when everything before it is. */
  private marker(line: number, asks: number): void {
    const at = this.made.at(-1)?.to ?? this.controller.seconds;
    const [x, y] = this.controller.place;
    this.made.push({
      ...{
        line,
        part: (this.movesOf.get(line)?.count ?? 1) - 1,
        from: at,
        to: at,
        x0: x,
        y0: y,
        x,
        y,
        burned: [],
        asks,
      },
      ...{ begins: at, length: 0, speeds: [0, 0, 0] },
    });
  }

  /** The second of its own clock. */
  private now(): number {
    const { pace } = this.faults;
    if (pace === 0) return Infinity;
    return this.clockFrom.machine + ((Date.now() - this.clockFrom.wall) / 1000) * pace;
  }

  /**
   * Marks what was marked up to a second, and takes for done what the beam, which answers late, has left.
   * @param settle  only that: the head has stood still long enough
   */
  private makeUpTo(now: number, settle = false): void {
    let done = 0;
    while (!settle && done < this.made.length && this.made[done].from <= now) {
      const one = this.made[done];
      const whole = one.to <= now;
      if (whole && this.wayMade === 0) for (const stretch of one.burned) this.mark(one.line, stretch);
      else {
        const way = whole ? Infinity : wayAt(one, now, this.built.accelMmPerS2);
        for (const stretch of burnedBetween(one, this.wayMade, way)) this.mark(one.line, stretch);
        this.wayMade = way;
      }
      if (!whole) break;
      this.wayMade = 0;
      done++;
      this.settling.push(one);
      for (let k = 0; k < one.asks; k++)
        this.say(`${Math.round(one.x * 1000)},${Math.round(one.y * 1000)},0`);
    }
    this.made.splice(0, done);
    const until = now - this.late;
    let settled = 0;
    while (settled < this.settling.length && this.settling[settled].to <= until) {
      const { line, part, x, y, to } = this.settling[settled++];
      this.doneSeconds = to;
      const { count, first } = this.movesOf.get(line) ?? { count: 1, first: 0 };
      if (line === 0 || part < first) continue;
      const left = count - part - 1;
      if (left === 0) this.executed = Math.max(this.executed, line);
      this.stands = { x, y, left };
    }
    this.settling.splice(0, settled);
  }

  private mark(line: number, { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number }): void {
    this.fresh.push([line, x0, y0, x1, y1]);
    this.markedMm += Math.hypot(x1 - x0, y1 - y0);
  }

  private run(): void {
    const { loseLineAt, jamAt } = this.faults;
    const before = this.executed;
    this.makeUpTo(this.limit(this.now()));
    if (loseLineAt !== null && this.executed >= loseLineAt) {
      this.faults.loseLineAt = null;
      return this.cutLine();
    }
    if (jamAt !== null && this.executed >= jamAt) {
      this.faults.jamAt = null;
      this.breakOff("jammed");
      this.say(`jam ${this.executed}`);
      this.socket?.end();
      return;
    }
    if (this.fresh.length > 0 || this.executed !== before) this.flush(); // before anybody is told
    if (this.executed !== this.told) {
      this.told = this.executed;
      this.say(`at ${this.executed} ${this.doneSeconds.toFixed(3)}`);
    }
    if (this.ends && this.made.length === 0 && this.settling.length === 0) {
      this.mode = "done";
      this.flush();
      this.say(`done ${this.doneSeconds.toFixed(3)}`);
    }
  }

  /** As fast as it can goes no further than where something is to go wrong. */
  private limit(now: number): number {
    const { loseLineAt, jamAt } = this.faults;
    if (now !== Infinity || (loseLineAt === null && jamAt === null)) return now;
    const line = Math.min(loseLineAt ?? Infinity, jamAt ?? Infinity);
    const stop = this.made.find((one) => one.line > line && one.burned.length === 0);
    return stop ? stop.from + this.late : now;
  }

  /** The line breaks. */
  private cutLine(): void {
    const { socket } = this;
    this.socket = null;
    this.breakOff("held");
    socket?.destroy();
  }

  /** Writes down what was marked since the last time. */
  private flush(): void {
    for (const stretch of this.fresh) this.stretches.push(stretch);
    const { executed, doneSeconds: seconds, stands } = this;
    this.journal.add({ executed, seconds, ...stands, done: this.mode === "done", stretches: this.fresh });
    this.fresh = [];
  }
}
