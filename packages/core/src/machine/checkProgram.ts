import { MM_PER_INCH } from "../maths/units";
import { type Work } from "../maths/work";
import { flattened } from "../path/flatten";
import { GcodeReader, ProgramError } from "./gcode";
import { HpglReader } from "./hpgl";
import { passName, type Job } from "./job";
import { reachable, type BedLaser, type KnifeCutter, type Machine } from "./machine";
import { ProgramLines } from "./programLines";
import { stretchesOf, type Stretch } from "./rows";

/** Lines looked at between two portions. */
const AT_ONCE = 20000;
/** Places are written to a tenth of a micrometre. */
const NEAR_MM = 2e-4;

/** What of a program's passes is needed to check it. */
export interface CheckedPass {
  readonly name: string;
  readonly use: string;
  /** Lines of the program, counted from 1: from the one to the other, both in it. */
  readonly lines: readonly [number, number];
}

/**
 * Looks through the bytes of a program before they are sent to a machine: nothing in it may mark outside of its passes,
 * travel or stand still with the beam on or the knife down, leave what the machine reaches, or come after the end. It reads
 * the program as the less careful kind of controller does, which leaves the beam as it is in G0.
 *
 * @param mediaType  of the program; dots for a film printer bring no moves, and are checked when they are planned
 * @throws ProgramError that names the line and why
 */
export function* checkProgram(
  bytes: Uint8Array,
  mediaType: string,
  machine: Machine,
  passes: readonly CheckedPass[],
): Work<ProgramLines> {
  const lines = yield* ProgramLines.of(bytes);
  if (machine.kind === "bed-laser" && mediaType === "text/x-gcode") yield* checkGcode(lines, machine, passes);
  else if (machine.kind === "knife-cutter" && mediaType === "application/vnd.hp-hpgl")
    yield* checkPlot(lines, machine, passes);
  else if (machine.kind !== "film-printer" || mediaType !== "image/tiff")
    throw new ProgramError(1, lines.text(0), `${mediaType} is not for ${machine.name}`);
  return lines;
}

function* checkGcode(lines: ProgramLines, machine: BedLaser, passes: readonly CheckedPass[]): Work<void> {
  const reader = new GcodeReader({ ...machine, beamInTravel: true });
  const reaches = reachOf(machine);
  const passAt = passFinder(passes);
  let ended = false;
  let [x, y] = reader.place;
  for (let k = 0; k < lines.count; k++) {
    if (k % AT_ONCE === 0) yield k / lines.count;
    const text = lines.text(k);
    const refuse = (why: string): never => {
      throw new ProgramError(k + 1, text, why);
    };
    if (ended) {
      if (text.trim() !== "") refuse("it comes after the end of the program");
      continue;
    }
    const { move, end } = reader.read(text, k + 1);
    if (end) {
      if (reader.burnsStanding) refuse("the program ends with the beam on");
      ended = true;
      continue;
    }
    if (!move) {
      if (reader.burnsStanding) refuse("the beam is on while the head stands still");
      continue;
    }
    if (move.pause > 0 && move.power > 0) refuse("the beam is on while the head stands still");
    if (move.power > 0) {
      if (reader.isTravel) refuse("it travels with the beam on");
      const pass = passAt(k + 1);
      if (!pass) refuse("it marks outside of every pass");
      if (pass!.use === "bitmap" && move.y !== y) refuse("a row that does not run across");
      if (!reaches(x, y)) refuse("it marks from outside of what the machine reaches");
    }
    if (!reaches(move.x, move.y) && !(move.x === 0 && move.y === 0 && move.power === 0))
      refuse(`${move.x}, ${move.y} mm is outside of what ${machine.name} reaches`);
    [x, y] = [move.x, move.y];
  }
  if (!ended) throw new ProgramError(lines.count, lines.text(lines.count - 1), "the program does not end");
}

function* checkPlot(lines: ProgramLines, machine: KnifeCutter, passes: readonly CheckedPass[]): Work<void> {
  const reader = new HpglReader(machine);
  const reaches = reachOf(machine);
  const passAt = passFinder(passes);
  let ended = false;
  for (let k = 0; k < lines.count; k++) {
    if (k % 500 === 0) yield k / lines.count;
    const text = lines.text(k);
    const refuse = (why: string): never => {
      throw new ProgramError(k + 1, text, why);
    };
    if (ended && text.trim() !== "") refuse("it comes after the end of the program");
    const { moves } = reader.read(text, k + 1);
    for (const { x, y, power } of moves) {
      if (power > 0 && !passAt(k + 1)) refuse("it cuts outside of every pass");
      if (!reaches(x, y) && !(x === 0 && y === 0 && power === 0))
        refuse(`${x}, ${y} mm is outside of what ${machine.name} reaches`);
    }
    if (reader.isDown) refuse("the knife stays down at the end of the line");
    if (/^PU0,0;SP0;/.test(text)) ended = true;
  }
  if (!ended) throw new ProgramError(lines.count, lines.text(lines.count - 1), "the program does not end");
}

function reachOf(machine: Machine): (x: number, y: number) => boolean {
  const { x: left, y: top, width, height } = reachable(machine);
  const upper = machine.bed.heightMm - top + NEAR_MM;
  const lower = machine.bed.heightMm - top - height - NEAR_MM;
  return (x, y) => x >= left - NEAR_MM && x <= left + width + NEAR_MM && y >= lower && y <= upper;
}

/** The pass that a line belongs to; lines are asked for in their order, and so are passes. */
function passFinder(passes: readonly CheckedPass[]): (line: number) => CheckedPass | undefined {
  let k = 0;
  return (line) => {
    while (k < passes.length && passes[k].lines[1] < line) k++;
    return k < passes.length && passes[k].lines[0] <= line ? passes[k] : undefined;
  };
}

/**
 * Holds the marks of a laser's program against the job that it was made of: a bitmap's pass marks its dots and no others,
 * a pass of lines goes along its lines and nowhere else.
 *
 * @param at  where the top left of the job lies on the bed, in mm from the bed's own
 * @throws ProgramError that names the line and why
 */
export function* checkMarks(
  lines: ProgramLines,
  job: Job,
  machine: BedLaser,
  passes: readonly CheckedPass[],
  at: readonly [number, number],
): Work<void> {
  const reader = new GcodeReader({ ...machine, beamInTravel: true });
  const passAt = passFinder(passes);
  const marks = new Map<string, (x0: number, y0: number, x1: number, y1: number, speed: number) => boolean>();
  for (const { name, use } of passes) {
    if (use === "bitmap") {
      const bitmap = job.bitmaps.find((b) => b.name === name)!;
      marks.set(name, dotsOf(bitmap, machine, at));
    } else
      marks.set(
        name,
        linesOf(
          job.sets.filter((s) => passName(s) === name),
          machine,
          at,
        ),
      );
  }
  let [x, y] = reader.place;
  for (let k = 0; k < lines.count; k++) {
    if (k % AT_ONCE === 0) yield k / lines.count;
    const text = lines.text(k);
    const { move, end } = reader.read(text, k + 1);
    if (end) return;
    if (!move) continue;
    const pass = move.power > 0 ? passAt(k + 1) : undefined;
    if (move.power > 0 && !(pass && marks.get(pass.name)!(x, y, move.x, move.y, move.speed)))
      throw new ProgramError(k + 1, text, "it marks where nothing is to be marked");
    [x, y] = [move.x, move.y];
  }
}

/** Whether a stretch marks exactly one stretch of dots: it is told early by as much as the beam answers late. */
function dotsOf(
  { bits, dotsPerInch }: Job["bitmaps"][number],
  machine: BedLaser,
  at: readonly [number, number],
): (x0: number, y0: number, x1: number, y1: number, speed: number) => boolean {
  const dot = MM_PER_INCH / dotsPerInch;
  let known = -1;
  let stretches: readonly Stretch[] = [];
  return (x0, y0, x1, y1, speed) => {
    if (y0 !== y1) return false;
    const row = Math.round((machine.bed.heightMm - at[1] - y0) / dot - 0.5);
    if (row < 0 || row >= bits.height) return false;
    if (row !== known) [known, stretches] = [row, stretchesOf(bits, row)];
    const early = (Math.sign(x1 - x0) * speed * machine.responseMs) / 1000;
    const [a, b] = x0 < x1 ? [x0, x1] : [x1, x0];
    const [from, to] = [(a + early - at[0]) / dot, (b + early - at[0]) / dot];
    const near = NEAR_MM / dot;
    return stretches.some((s) => Math.abs(s.from - from) < near && Math.abs(s.to - to) < near);
  };
}

/** Whether a stretch is a side of one of these lines, either way. */
function linesOf(
  sets: Job["sets"],
  machine: BedLaser,
  at: readonly [number, number],
): (x0: number, y0: number, x1: number, y1: number) => boolean {
  const key = (x: number, y: number): string => `${Math.round(x * 1e4)} ${Math.round(y * 1e4)}`;
  const sides = new Set<string>();
  for (const set of sets)
    for (const { points } of flattened(set, 0.002))
      for (let k = 2; k < points.length; k += 2) {
        const place = (j: number): string =>
          key(at[0] + points[j], machine.bed.heightMm - at[1] - points[j + 1]);
        const [a, b] = [place(k - 2), place(k)];
        sides.add(`${a} ${b}`).add(`${b} ${a}`);
      }
  return (x0, y0, x1, y1) => sides.has(`${key(x0, y0)} ${key(x1, y1)}`);
}
