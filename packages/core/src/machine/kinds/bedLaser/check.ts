import { MM_PER_INCH } from "../../../maths/units";
import { type Work } from "../../../maths/work";
import { flattened } from "../../../path/flatten";
import { GcodeReader, ProgramError } from "../../gcode";
import { passName, type Job } from "../../job";
import { passFinder } from "../../passFinder";
import { type CheckedPass } from "../../program";
import { type ProgramLines } from "../../programLines";
import { NEAR_MM, reachOf } from "../../reach";
import { stretchesOf, type Stretch } from "../../rows";
import { type BedLaser } from "./profile";

/** Lines looked at between two slices. */
const AT_ONCE = 20000;

/** Read as by a controller that leaves the beam as it is in G0. */
export function* checkGcode(
  lines: ProgramLines,
  machine: BedLaser,
  passes: readonly CheckedPass[],
): Work<void> {
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
