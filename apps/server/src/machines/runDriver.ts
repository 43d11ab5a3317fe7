import { type RunPlanView } from "@hardline/contract";
import {
  findMark,
  finish,
  fitLie,
  GcodeReader,
  laidAt,
  planRun,
  type Job,
  type PathSet,
} from "@hardline/core";
import { type BlobStore } from "../blobs/blob.store";
import { log } from "../http/log";
import { type JobMarks } from "../renders/makers/program.maker";
import { LineError, MachineLine } from "./machineLine";
import { type KnownMachine } from "./machines.service";
import { type RunRow, type RunsStore } from "./runs.store";

/** Lines that are under way to a machine, at most. */
const WINDOW = 1500;
const TELL_MS = 200;

/** Sends one run to its machine, from wherever the machine says it is. */
export class RunDriver {
  private wish: "go on" | "pause" | "stop" = "go on";
  private line: MachineLine | null = null;
  private executed: number;
  private seconds: number | null;

  constructor(
    private readonly run: RunRow,
    private readonly known: KnownMachine,
    private readonly runs: RunsStore,
    private readonly blobs: BlobStore,
  ) {
    this.executed = run.executed;
    this.seconds = run.seconds;
  }

  get id(): string {
    return String(this.run.id);
  }

  pause(): void {
    this.wish = "pause";
    this.line?.say("HOLD\n");
  }

  goOn(): void {
    this.wish = "go on";
    this.line?.say("GO\n");
  }

  stop(): void {
    this.wish = "stop";
    this.line?.say("STOP\n");
  }

  /** Runs to the end, or until something is in the way; which of them stands on the run afterwards. */
  async drive(): Promise<void> {
    try {
      await this.send();
    } catch (error) {
      const words = error instanceof LineError ? error.message : `A fault: ${(error as Error).message}`;
      if (!(error instanceof LineError)) log.error({ err: error, run: this.id }, "run");
      const where = this.executed > 0 ? ` Line ${this.executed} of ${this.run.plan!.lines} is done.` : "";
      await this.runs.set(
        this.id,
        { state: "held", error: words + where, executed: this.executed, seconds: this.seconds },
        ["running", "paused"],
      );
    } finally {
      this.line?.close();
    }
  }

  private async send(): Promise<void> {
    const { host, port, machine } = this.known;
    const line = (this.line = await MachineLine.open(host, port));
    const [, onBed, done] = await line.expect("hello", 120000);
    if (this.run.executed > 0 && onBed !== this.id)
      throw new LineError(
        `Something else lies on the bed now (run ${onBed}): this one cannot be gone on with.`,
      );
    const bytes = await this.bytes(line);
    line.say(`JOB ${this.id}\n`);
    const [from] = await line.expect("begin");
    this.executed = Math.max(Number(from), onBed === this.id ? Number(done) : 0);
    if (machine.kind === "film-printer") {
      line.say(`TIFF ${bytes.length}\n`);
      line.say(bytes);
      return this.follow(line, [], 0);
    }
    const lines = Buffer.from(bytes).toString("utf8").trimEnd().split("\n");
    if (this.executed > 0 && machine.kind === "bed-laser") {
      const reader = new GcodeReader(machine);
      for (let k = 0; k < this.executed; k++) reader.read(lines[k], k + 1);
      const again = [...reader.standing, ...reader.runUpTo(lines[this.executed], machine)];
      line.say(`${again.join("\n")}\n`);
    }
    if (this.executed > 0 && machine.kind === "knife-cutter") line.say(`${lines[1]}\n`.replace("OA;", ""));
    await this.follow(line, lines, this.executed);
  }

  /** The program: as it was looked at; of what is printed and then cut, made anew for how the sheet lies. */
  private async bytes(line: MachineLine): Promise<Uint8Array> {
    const { run } = this;
    if (!run.job || this.known.machine.kind !== "knife-cutter") return this.blobs.get(run.program_sha256!);
    if (run.sent_sha256 && run.executed > 0) return this.blobs.get(run.sent_sha256);
    const { marks, sets } = run.job as unknown as { marks: JobMarks; sets: readonly PathSet[] };
    const { lie, used, offMm } = await this.readMarks(line, marks);
    const job: Job = {
      name: run.name,
      widthMm: marks.widthMm,
      heightMm: marks.heightMm,
      bitmaps: [],
      sets: sets.map(packed),
    };
    const { program } = finish(planRun(job, this.known.machine, run.wish, (x, y) => laidAt(lie, x, y)));
    const sha256 = await this.blobs.put(program.bytes, program.mediaType);
    const turn = (Math.atan2(lie[3], lie[0]) * 180) / Math.PI;
    const [cx, cy] = laidAt(lie, marks.widthMm / 2, marks.heightMm / 2);
    const eye = {
      turnDegrees: Math.round(turn * 1000) / 1000,
      shiftMm: Math.round(Math.hypot(cx - marks.widthMm / 2, cy - marks.heightMm / 2) * 100) / 100,
      ...{ used: used.length, of: marks.places.length, offMm: Math.round(offMm * 1000) / 1000 },
    };
    await this.runs.set(this.id, { sent_sha256: sha256, eye: JSON.stringify(eye) });
    return program.bytes;
  }

  /** The eye goes to where each mark should be, and looks once more where it found one, nearer to the middle of its sight. */
  private async readMarks(line: MachineLine, marks: JobMarks) {
    const found = [];
    for (const place of marks.places) found.push(await this.lookFor(line, marks, place));
    const fitted = fitLie(marks.places, found);
    if (fitted) return fitted;
    const seen = found.filter(Boolean).length;
    throw new LineError(
      `The eye found ${seen} of ${marks.places.length} marks that go together; 3 are needed. Is the printed sheet in, its top left at the bed's?`,
    );
  }

  private async lookFor(line: MachineLine, { entry }: JobMarks, [x, y]: readonly [number, number]) {
    line.say(`EYE ${x} ${y}\n`);
    const [width, height, mmPerPixel, data] = await line.expect("eye");
    if (width === "none") throw new LineError("The eye sees no sheet. Lay the printed sheet in.");
    const [w, h, mm] = [width, height, mmPerPixel].map(Number);
    const picture = { width: w, height: h, data: new Uint8Array(Buffer.from(data, "base64")) };
    return findMark({ picture, xMm: x - (w * mm) / 2, yMm: y - (h * mm) / 2, mmPerPixel: mm }, entry);
  }

  private async follow(line: MachineLine, lines: readonly string[], from: number): Promise<void> {
    let [sent, taken, told] = [from, from, 0];
    if (this.wish === "pause") line.say("HOLD\n");
    for (;;) {
      if (sent < lines.length && sent - taken < WINDOW) {
        const to = Math.min(lines.length, taken + WINDOW);
        line.say(`${lines.slice(sent, to).join("\n")}\n`);
        sent = to;
      }
      const heard = await line.next(TELL_MS);
      const [word, a, b] = heard?.split(" ") ?? [];
      if (word === "ok") taken = Number(a);
      else if (word === "at") [this.executed, this.seconds] = [Number(a), Number(b)];
      else if (word === "refused") throw new LineError(`The machine refuses: ${heard!.slice(8)}.`);
      else if (word === "jam") {
        this.executed = Number(a);
        throw new LineError("The material jammed. Clear it, then go on.");
      } else if (word === "stopped") {
        await this.end({ state: "stopped" });
        return;
      } else if (word === "done") {
        this.seconds = Number(a);
        this.executed = this.run.plan!.lines;
        await this.end(await this.looked());
        return;
      }
      if (Date.now() - told > TELL_MS) {
        told = Date.now();
        await this.runs.set(this.id, { executed: this.executed, seconds: this.seconds });
      }
    }
  }

  private async end(values: Parameters<RunsStore["set"]>[1]): Promise<void> {
    const { executed, seconds } = this;
    await this.runs.set(this.id, {
      state: "done",
      error: null,
      executed,
      seconds,
      ended_at: new Date(),
      ...values,
    });
  }

  /** What a stand-in made, looked at: the burned picture beside the bitmap that was to be burned. */
  private async looked(): Promise<Parameters<RunsStore["set"]>[1]> {
    const { bitmap } = this.run.plan!;
    const { floor, host } = this.known;
    if (!bitmap || !floor) return {};
    const query = burnedGrid(this.run.plan!, this.known);
    const response = await fetch(`http://${host}:${floor}/burned?${query}`).catch(() => null);
    if (!response?.ok) return {};
    const png = Buffer.from(await response.arrayBuffer());
    const sha256 = await this.blobs.put(png, "image/png");
    const made = { equal: sha256 === bitmap.sha256, twice: Number(response.headers.get("X-Twice")) };
    return { burned_sha256: sha256, made: JSON.stringify(made) };
  }
}

/** Where the bitmap of a run lies on the bed, and which lines of the program burn it, for a stand-in's floor. */
export function burnedGrid({ bitmap, at, passes }: RunPlanView, { machine }: KnownMachine): URLSearchParams {
  const { width, height, dotsPerInch } = bitmap!;
  const [fromLine, toLine] = passes.find((p) => p.use === "bitmap")!.lines;
  const [xMm, topMm] = [at[0], machine.bed.heightMm - at[1]];
  const grid = { width, height, dotsPerInch, xMm, topMm, fromLine, toLine };
  return new URLSearchParams(Object.fromEntries(Object.entries(grid).map(([k, v]) => [k, String(v)])));
}

/** A set as it was kept in the database. */
const packed = (set: PathSet): PathSet => ({
  ...set,
  points: Float64Array.from(set.points),
  starts: Uint32Array.from(set.starts),
  closed: Uint8Array.from(set.closed),
});
