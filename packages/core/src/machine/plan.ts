import { workSlice, type Work } from "../maths/work";
import { checkMarks, checkProgram } from "./checkProgram";
import { type Job } from "./job";
import { MachineError } from "./error";
import { machineKindOf, type Machine } from "./machine";
import { type Moves } from "./moves";
import { type MachineProgram, type OnBed } from "./program";
import { passSeconds, secondsIn, timelineOf } from "./timeline";
import { type RunWish } from "./wish";
import { type Rect } from "../raster/types";

/** A program, and what is known of its run before it begins. */
export interface RunPlan {
  readonly program: MachineProgram;
  readonly seconds: number;
  readonly passes: readonly { readonly name: string; readonly seconds: number }[];
  /** Where the head really goes, in mm from the bed's top left, y down; without the way there and home. */
  readonly travels: Rect;
  /** What rows run over the whole width of the marks would take longer: the corners of a round piece. */
  readonly cornersSeconds: number;
  /** Travel between lines that a better order saves, in mm. */
  readonly savedMm: number;
}

/**
 * What a job is on a machine: its program, looked through and held against the job, and how long and where it runs.
 * @throws MachineError when the machine cannot do it, or there is nothing to do
 */
export function* planRun(job: Job, machine: Machine, wish: RunWish, lies?: OnBed): Work<RunPlan> {
  const kind = machineKindOf(machine);
  const program = yield* workSlice(kind.plan(job, machine, wish, lies), 0, 0.8);
  if (program.passes.length === 0 || program.moves.count === 0)
    throw new MachineError("What is to be run", "nothing", "dots, or lines that are cut or scored");
  const { bytes, mediaType, passes } = program;
  const lines = yield* workSlice(checkProgram(bytes, mediaType, machine, passes), 0.8, 0.85);
  yield* workSlice(checkMarks(lines, job, machine, passes, program.at), 0.85, 0.9);
  const timeline = yield* workSlice(timelineOf(program.moves, machine), 0.9, 1);
  const given = program.passes.reduce((sum, p) => sum + (p.givenMm ?? 0), 0);
  const run = program.passes.reduce((sum, p) => sum + (p.travelMm ?? 0), 0);
  const cornersMm = program.passes.reduce((sum, p) => sum + (p.cornersMm ?? 0), 0);
  return {
    program,
    seconds: secondsIn(timeline),
    passes: passSeconds(timeline),
    travels: travelled(program.moves, machine),
    cornersSeconds: cornersMm / (wish.mmPerS ?? kind.rowSpeed?.(machine) ?? 1),
    savedMm: Math.max(0, given - run),
  };
}

function travelled({ x, y, count }: Moves, { bed }: Machine): Rect {
  let [left, right, bottom, top] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let k = 1; k <= count; k++) {
    if (x[k] === 0 && y[k] === 0) continue; // home
    [left, right] = [Math.min(left, x[k]), Math.max(right, x[k])];
    [bottom, top] = [Math.min(bottom, y[k]), Math.max(top, y[k])];
  }
  return { x: left, y: bed.heightMm - top, width: right - left, height: top - bottom };
}
