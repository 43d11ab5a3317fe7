import { ENQUIRY, escaped, PAUSE, STOP } from "@hardline/core/machine/codes";
import {
  controlled,
  maySend,
  newControl,
  shownState,
  UNHEARD,
  type Act,
  type Control,
  type ControlEvent,
  type Wish,
} from "@hardline/core/machine/control";
import { machineKindOf } from "@hardline/core/machine/machine";
import { setTimeout as sleep } from "node:timers/promises";
import { askAgain, isAway } from "../database/away";
import { log } from "../log/log";
import { type BlobStore } from "../blobs/blob.store";
import { type Calculating } from "../calculating/calculating.service";
import { LineError, MachineLine } from "../machines/machineLine";
import { type KnownMachine } from "../machines/machines.service";
import { sendingOf } from "./marksRead";
import { type MachineReach } from "../machines/reach";
import { type RunRow, type RunsStore } from "./runs.store";
import { type Sending, type SendingService } from "./sending";

/** Lines that are under way to a machine, at most; and bytes of what is no text. */
const WINDOW = 1500;
const PIECE = 1 << 16;
const GREET_MS = 30000;
const ANSWER_MS = 20000;
/** How often it is looked at what is to be done; how often how far it is is written down. */
const LOOK_MS = 50;
const TELL_MS = 200;
/** Pause or stop is said again after so long without an answer. */
const SAY_AGAIN_MS = 250;
/** The machine is asked how it is so often, and must have said something within so long. */
const ENQUIRE_MS = 400;
const SILENT_MS = 6000;
/** How it came to rest is written down, should the database be away, within so long. */
const REST_MS = 30000;
/** Whoever cannot be reached to be stopped is called again after so long. */
const CALL_AGAIN_MS = 700;

/** What a driver needs of the program around it. */
export interface Around {
  readonly runs: RunsStore;
  readonly blobs: BlobStore;
  readonly calculating: Calculating;
  readonly sending: SendingService;
  readonly reach: MachineReach;
  /** What is done once the program is at its end. */
  readonly looked: (run: RunRow, known: KnownMachine) => Promise<Parameters<RunsStore["set"]>[1]>;
}

/**
 * Sends one run to its machine, from wherever the machine says it is, and does what is wished of it meanwhile. What may
 * happen in which order is decided by core's `control`; here is the line, the clock and the database.
 */
export class RunDriver {
  private control: Control;
  private line: MachineLine | null = null;
  /** Whether the machine hears codes, and so puts its beam off by itself when nobody is there any more. */
  private hearsCodes = false;
  /** Whether the machine has this run's job, as far as it said. */
  private begun = false;
  private executed: number;
  private seconds: number | null;
  private sending: Sending | null = null;
  /** Where in the program the next bytes are, and lines that are sent and taken. */
  private offset = 0;
  private sent = 0;
  private taken = 0;
  private saidAt = 0;
  private heardAt = 0;
  private heeded: number;
  private written = "";
  private writing: Promise<void> | null = null;
  private toldAt = 0;
  private timer?: NodeJS.Timeout;

  constructor(
    private readonly run: RunRow,
    private readonly known: KnownMachine,
    private readonly around: Around,
  ) {
    this.control = newControl(run.executed > 0, run.state === "stopping");
    this.executed = run.executed;
    this.seconds = run.seconds;
    this.heeded = run.heeded;
  }

  private get isOver(): boolean {
    return this.control.phase === "ended";
  }

  get id(): string {
    return String(this.run.id);
  }

  /** What somebody wishes, at once. */
  wish(wish: Wish): void {
    this.give({ of: "wish", wish });
  }

  /** The machine may be somebody else's now, or this program ends. */
  leave(why: string): void {
    this.give({ of: "unlocked", why });
  }

  /** Somebody wrote down what is wished: it is read, and done. */
  async heed(): Promise<void> {
    const row = await this.around.runs.row(this.id);
    this.heedRow(row);
  }

  private heedRow({ wanted, wantedNo }: Pick<RunRow, "wanted" | "wantedNo">): void {
    if (wantedNo <= this.heeded) return;
    this.heeded = wantedNo;
    if (wanted) this.give({ of: "wish", wish: wanted });
    this.write();
  }

  /** Runs until the run has come to rest; which way stands on it afterwards. */
  async drive(): Promise<void> {
    this.timer = setInterval(() => this.look(), LOOK_MS);
    try {
      while (!this.isOver) {
        await this.call().catch((error: unknown) => this.broke(error));
        this.line?.close();
        this.line = null;
        if (!this.isOver) await sleep(CALL_AGAIN_MS);
      }
    } finally {
      clearInterval(this.timer);
      await this.sending?.remove();
      if (this.control.outcome !== "left") await this.rest();
    }
  }

  private broke(error: unknown): void {
    if (error instanceof Interrupted) return;
    const known = error instanceof LineError;
    if (!known) log.error({ err: error, run: this.id }, "run");
    // Whatever went wrong: nobody drives the machine any more, and it hears so at once.
    if (!known) this.line?.breakOff();
    this.give({ of: "lost", why: known ? error.message : `A fault: ${(error as Error).message}` });
  }

  private give(event: ControlEvent): void {
    const { control, acts } = controlled(this.control, event);
    this.control = control;
    for (const act of acts) this.act(act);
    this.write();
    this.line?.wakeUp();
  }

  private act(act: Act): void {
    const { line } = this;
    if (act === "break off") line?.breakOff();
    else if (act !== "begin") {
      this.saidAt = Date.now();
      const code = act === "say stop" ? STOP : PAUSE;
      line?.say(this.hearsCodes ? Uint8Array.of(code) : act === "say stop" ? "STOP\n" : "HOLD\n");
    }
  }

  /** Time passes: what was said is said again, the machine is asked how it is, and how far it is is written down. */
  private look(): void {
    const now = Date.now();
    const { phase } = this.control;
    if ((phase === "pausing" || phase === "stopping") && now - this.saidAt > SAY_AGAIN_MS) {
      this.saidAt = now;
      this.give({ of: "unanswered" });
    }
    if (now - this.toldAt > TELL_MS) {
      this.toldAt = now;
      this.written = "";
      this.write();
    }
  }

  private async call(): Promise<void> {
    const address = await this.around.reach.addressOf(this.known.host).catch((error: Error) => {
      throw new LineError(`It is not called: ${error.message}.`);
    });
    if (this.isOver) return;
    const line = await MachineLine.open(address, this.known.port);
    this.line = line;
    this.heardAt = Date.now();
    this.hearsCodes = false;
    const [, onBed, , ...place] = await this.until("hello", GREET_MS);
    this.hearsCodes = place.length > 0;
    const own = onBed === this.id;
    if (this.run.executed > 0 && !own && this.control.phase === "calling")
      throw new LineError(
        `Something else lies on the bed now (run ${onBed}): this one cannot be gone on with.`,
      );
    this.begun = own;
    this.give({ of: "greeted", own });
    const alive = setInterval(() => {
      if (this.hearsCodes) line.say(Uint8Array.of(ENQUIRY));
    }, ENQUIRE_MS);
    try {
      while (!this.isOver) {
        if (this.control.phase === "setting") await this.set(line);
        else {
          this.send(line);
          await this.listen(line);
        }
      }
    } finally {
      clearInterval(alive);
    }
  }

  /** The machine is told of the job, and says from where it goes on. */
  private async set(line: MachineLine): Promise<void> {
    try {
      const asks = (words: string, answer: string): Promise<string[]> => {
        line.say(`${words}\n`);
        return this.until(answer, ANSWER_MS, "setting");
      };
      this.sending ??= await sendingOf(this.run, this.known, this.around, asks);
      this.during("setting");
      line.say(`JOB ${this.id}\n`);
      const [from, x, y, left] = (await this.until("begin", ANSWER_MS, "setting")).map(Number);
      const { file, lines, bytes } = this.sending;
      if (!(Number.isInteger(from) && from >= 0 && from <= Math.max(lines, this.run.plan!.lines)))
        throw new LineError(`The machine says that line ${from} of ${this.run.plan!.lines} is done.`);
      this.executed = from;
      this.begun = true;
      [this.sent, this.taken, this.offset] = [from, from, 0];
      if (machineKindOf(this.known.machine).program.sent === "whole") {
        line.say(`TIFF ${bytes.length}\n`);
      } else if (from > 0 || left > 0) {
        // One that does not say where it stands is where the last line that is done ended.
        const at = { line: from, x: x ?? NaN, y: y ?? NaN, left: left ?? 0 };
        const resumed = await this.around.calculating.do("machines", "resume", {
          ...{ file, machine: this.known.machine, at },
        });
        this.during("setting");
        for (const words of resumed.say) line.say(this.hearsCodes ? `SET ${words}\n` : `${words}\n`);
        this.offset = resumed.offset;
        if (resumed.instead !== null) {
          line.say(`${resumed.instead}\n`);
          this.sent++;
          this.offset = this.lineEnds(this.offset, 1);
        }
      }
    } catch (error) {
      if (error instanceof Interrupted) return;
      throw error;
    }
    this.give({ of: "begun" });
  }

  /** Sends what there is room for: never behind anything that has not gone out, so that a stop waits behind little. */
  private send(line: MachineLine): void {
    if (!maySend(this.control) || !line.isFree || !this.sending) return;
    const { bytes, lines } = this.sending;
    if (machineKindOf(this.known.machine).program.sent === "whole") {
      if (this.offset >= bytes.length) return;
      const piece = bytes.subarray(this.offset, this.offset + PIECE);
      line.say(this.hearsCodes ? escaped(piece) : piece);
      this.offset += piece.length;
      return;
    }
    const room = Math.min(lines - this.sent, WINDOW - (this.sent - this.taken));
    if (room <= 0) return;
    const to = this.lineEnds(this.offset, room);
    line.say(bytes.subarray(this.offset, to));
    [this.offset, this.sent] = [to, this.sent + room];
  }

  /** Where so many lines end, in bytes. */
  private lineEnds(from: number, count: number): number {
    const { bytes } = this.sending!;
    let at = from;
    for (let k = 0; k < count; k++) {
      const end = bytes.indexOf(10, at);
      if (end < 0) return bytes.length;
      at = end + 1;
    }
    return at;
  }

  /** Waits for a line that begins with a word. @param phase  and only as long as this is what is done */
  private async until(word: string, withinMs: number, phase?: Control["phase"]): Promise<string[]> {
    const end = Date.now() + withinMs;
    while (Date.now() < end) {
      if (phase) this.during(phase);
      if (this.isOver) throw new Interrupted();
      const text = await this.line!.next(LOOK_MS);
      if (text === null) continue;
      const [first, ...more] = this.heard(text);
      if (first === word) return more;
    }
    throw new LineError(`The machine says nothing (${word} was waited for).`);
  }

  /** @throws Interrupted when something else is to be done now */
  private during(phase: Control["phase"]): void {
    if (this.control.phase !== phase) throw new Interrupted();
  }

  private async listen(line: MachineLine): Promise<void> {
    const text = await line.next(LOOK_MS);
    if (text !== null) this.heard(text);
    else if (this.hearsCodes && Date.now() - this.heardAt > SILENT_MS)
      throw new LineError(`The machine has said nothing for ${SILENT_MS / 1000} s.`);
  }

  /** What the machine says, taken note of. */
  private heard(text: string): string[] {
    this.heardAt = Date.now();
    const words = text.split(" ");
    const [word, a, b, c, d] = words;
    switch (word) {
      case "ok":
        this.taken = Math.max(this.taken, count(a));
        break;
      case "at":
        this.cameTo(a, b);
        break;
      case "is":
        if (!this.isOfThis(d)) break;
        this.cameTo(b, c);
        if (a === "held" || a === "quiet" || a === "stopped" || a === "done") this.give({ of: a });
        break;
      case "stopped":
        if (!this.isOfThis(c)) break;
        this.cameTo(a, b);
        this.give({ of: "stopped" });
        break;
      case "done":
        this.seconds = seconds(a) ?? this.seconds;
        this.executed = this.run.plan!.lines;
        this.give({ of: "done" });
        break;
      case "jam":
        this.cameTo(a, undefined);
        this.give({ of: "jammed" });
        break;
      case "refused":
        this.give({ of: "refused", why: text.slice(8, 208).replace(/[^\x20-\x7e]/g, "") });
        break;
    }
    return words;
  }

  /**
   * Whether what a machine says of itself is said of this run: what lies on the bed may still be another, which may be done
   * or stopped without this one being it.
   */
  private isOfThis(job: string | undefined): boolean {
    const own = job === undefined ? this.begun : job === this.id;
    // Of this run nothing can be under way there.
    if (!own && this.control.phase === "stopping") this.give({ of: "greeted", own: false });
    return own;
  }

  private cameTo(line: string | undefined, at: string | undefined): void {
    const lines = this.run.plan!.lines;
    this.executed = Math.min(lines, Math.max(this.executed, count(line)));
    this.seconds = seconds(at) ?? this.seconds;
  }

  /** Writes down how it is, one after another, the newest last; what did not change is not written again. */
  private write(): void {
    // How it came to rest is written at the end, with everything that belongs to it.
    if (this.isOver || this.writing) return;
    const { executed, seconds: clock, heeded } = this;
    const state = shownState(this.control) as RunRow["state"];
    const error = this.words();
    const key = JSON.stringify([state, executed, clock, heeded, error]);
    if (key === this.written) return;
    this.written = key;
    this.writing = this.around.runs
      .keep(this.id, { state, executed, seconds: clock, heeded, error })
      .then((row) => {
        this.writing = null;
        if (row) this.heedRow(row);
        else this.leave("It was put away.");
        this.write(); // whatever has changed meanwhile
      })
      .catch((fault: unknown) => {
        [this.writing, this.written] = [null, ""];
        if (!isAway(fault)) log.warn({ err: fault, run: this.id }, "writing down how a run is");
      });
  }

  /** What people are told of it while it is at work. */
  private words(): string | null {
    const { phase, unanswered, why } = this.control;
    if ((phase !== "stopping" && phase !== "pausing") || unanswered < UNHEARD) return why;
    const what = phase === "stopping" ? "stop" : "pause";
    return `The machine does not hear: ${what} was said ${unanswered} times and is said again${why ? ` (${why.replace(/\.$/, "")})` : ""}. Nothing more is sent to it. If it still runs, use its own switch.`;
  }

  /** How the run came to rest, written down whole. */
  private async rest(): Promise<void> {
    await this.writing;
    const { outcome, why } = this.control;
    const { executed, seconds: clock, heeded } = this;
    const where =
      outcome === "held" && executed > 0 ? ` Line ${executed} of ${this.run.plan!.lines} is done.` : "";
    const more = outcome === "done" ? await this.around.looked(this.run, this.known) : {};
    const ended = outcome === "held" ? {} : { endedAt: new Date() };
    const error = why === null ? null : why + where;
    const values = { state: outcome as RunRow["state"], error, executed, seconds: clock, heeded, ...ended };
    await askAgain(() => this.around.runs.rest(this.id, { ...values, ...more }), REST_MS);
  }
}

/** Something else is to be done now: whatever was waited for is not. */
class Interrupted extends Error {}

function count(text: string | undefined): number {
  const value = Number(text);
  return Number.isSafeInteger(value) && value >= 0 && value < 2 ** 31 ? value : 0;
}

function seconds(text: string | undefined): number | null {
  const value = Number(text);
  return text !== undefined && Number.isFinite(value) && value >= 0 && value < 1e9 ? value : null;
}
