import { strToU8 } from "fflate";
import { MM_PER_INCH } from "../../../maths/units";
import { workSlice, type Work } from "../../../maths/work";
import { flattened } from "../../../path/flatten";
import { boxWith, type PathSet } from "../../../path/pathSet";
import { GcodeReader, movesOfGcode } from "../../gcode";
import { passName, runOrder, type Job } from "../../job";
import { MachineError } from "../../error";
import { reachable } from "../../profile";
import { checkReach } from "../../reach";
import { type BedLaser } from "./profile";
import { runUpOf } from "../../motion";
import { ordered } from "../../order";
import { decimal, plainText, ProgramText, type MachineProgram, type ProgramPass } from "../../program";
import { stretchesOf } from "../../rows";
import { isWished, type RunWish } from "../../wish";
import { FULL_POWER } from "../../words";

// Thresholds: what they decide is measured by `npm run runs`.

/** Curves become straight pieces that stay this near to them, in mm. */
const FLAT_MM = 0.002;
/** Blank stretches from this length on are crossed at travel speed. */
const BLANK_MM = 3;

/**
 * A job as G-code for a bed laser: marks first, row by row, then the lines. A row is run from its first mark to its last, at
 * one speed, which the head comes to before it; rows without a mark are skipped. The beam is told early by as much as it
 * answers late. Power of lines follows the speed (M4), that of rows does not (M3). Every travel says S0: there are
 * controllers that leave the beam as it is in G0.
 *
 * @throws MachineError where the dots are not those of the machine, or something lies outside of what it reaches
 * @see ISO 6983-1 for the words G0, G1, G21, G90, F, S, N; M3 to M5 as spindle words, as lasers take them
 */
export function* planLaser(job: Job, machine: BedLaser, wish: RunWish): Work<MachineProgram> {
  const speed = wish.mmPerS ?? machine.burnMmPerS;
  const wanted = (name: string) => isWished(wish, name);
  const bitmaps = job.bitmaps.filter((b) => wanted(b.name));
  const sets = runOrder(job.sets).filter((s) => wanted(passName(s)));
  for (const { dotsPerInch } of bitmaps) checkPitch(dotsPerInch, machine);
  const reach = reachable(machine);
  const early = (speed * machine.responseMs) / 1000;
  const runUp = bitmaps.length > 0 ? runUpOf(speed, machine.accelMmPerS2) + early : 0;
  // Lines may reach beyond the piece.
  const box = boxWith(sets, job.widthMm, job.heightMm);
  const at = wish.at ?? [reach.x + Math.max(runUp, -box.x), reach.y - box.y];
  const text = new ProgramText();
  const line = (words: string): void => text.line(`N${text.lines + 1}${words}`);
  line(`(${plainText(job.name)})`);
  for (const words of ["G21", "G90", "M5", "S0"]) line(words);
  const passes: ProgramPass[] = [];
  const place = new Place(machine, at);
  const all = bitmaps.length + sets.length;
  let done = 0;
  for (const { name, bits, dotsPerInch } of bitmaps) {
    const first = text.lines + 1;
    line(`(pass ${plainText(name)})`);
    const written = yield* workSlice(
      writeRows(line, place, bits, dotsPerInch, { speed, early, runUp, machine, wish }),
      (0.7 * done) / all,
      (0.7 * ++done) / all,
    );
    passes.push({ name, use: "bitmap", lines: [first, text.lines], ...written });
  }
  let here: readonly [number, number] = [0, 0];
  for (const set of sets) {
    const name = passName(set);
    const first = text.lines + 1;
    line(`(pass ${plainText(name)})`);
    const order = yield* workSlice(
      ordered(linesOf(set, place), here),
      (0.7 * done) / all,
      (0.7 * ++done) / all,
    );
    const mmPerS = set.pass?.speed ?? (set.use === "score" ? machine.scoreMmPerS : machine.cutMmPerS);
    const power = set.pass?.power ?? (set.use === "through" ? 100 : set.use === "kiss" ? 40 : 20);
    line("M4S0");
    for (const { points } of order.lines) {
      line(`G0X${decimal(points[0])}Y${decimal(points[1])}S0`);
      line(`G1F${decimal(mmPerS * 60)}S${Math.round((power / 100) * FULL_POWER)}`);
      for (let k = 2; k < points.length; k += 2) line(`X${decimal(points[k])}Y${decimal(points[k + 1])}`);
      line("S0");
      here = [points[points.length - 2], points[points.length - 1]];
    }
    const { givenMm, travelMm } = order;
    const use = set.use as ProgramPass["use"];
    passes.push({ name, use, lines: [first, text.lines], paths: order.lines.length, givenMm, travelMm });
  }
  line("M5S0");
  line("G0X0Y0S0");
  line("M2");
  const bytes = strToU8(text.text);
  const moves = yield* workSlice(movesOfGcode(bytes, new GcodeReader(machine)), 0.7, 1);
  checkReach(moves.x, moves.y, machine);
  return { mediaType: "text/x-gcode", extension: "gcode", bytes, passes, at, moves };
}

/** From mm of the job, y down, to mm of the machine, y up. */
class Place {
  constructor(
    private readonly machine: BedLaser,
    private readonly at: readonly [number, number],
  ) {}
  x = (mm: number): number => this.at[0] + mm;
  y = (mm: number): number => this.machine.bed.heightMm - this.at[1] - mm;
}

function checkPitch(dotsPerInch: number, { dotsPerInch: has, name }: BedLaser): void {
  if (has.some((d) => Math.abs(d - dotsPerInch) < 0.01)) return;
  throw new MachineError(
    "The finish's resolution",
    `${decimal(dotsPerInch)} dots per inch`,
    `${name} runs ${has.map(decimal).join(", ")}: set one of them under Size`,
  );
}

function linesOf(set: PathSet, place: Place) {
  return flattened(set, FLAT_MM).map(({ points, closed }) => ({
    closed,
    points: points.map((v, k) => (k % 2 === 0 ? place.x(v) : place.y(v))),
  }));
}

interface RowWish {
  readonly speed: number;
  readonly early: number;
  readonly runUp: number;
  readonly machine: BedLaser;
  readonly wish: RunWish;
}

/** Rows of a bitmap from top to bottom. @returns how many had a mark, and what running all of their width would add */
function* writeRows(
  line: (words: string) => void,
  place: Place,
  bits: Job["bitmaps"][number]["bits"],
  dotsPerInch: number,
  { speed, early, runUp, wish }: RowWish,
): Work<{ readonly rows: number; readonly cornersMm: number }> {
  const dot = MM_PER_INCH / dotsPerInch;
  const power = Math.round((wish.power / 100) * FULL_POWER);
  let [rows, left, right, run] = [0, Infinity, 0, 0];
  let back = false;
  line("M3S0");
  line(`G1F${decimal(speed * 60)}`);
  for (let row = 0; row < bits.height; row++) {
    if (row % 16 === 0) yield row / bits.height;
    const stretches = stretchesOf(bits, row);
    if (stretches.length === 0) continue;
    rows++;
    const [from, to] = [stretches[0].from, stretches[stretches.length - 1].to];
    [left, right, run] = [Math.min(left, from), Math.max(right, to), run + to - from];
    const way = back ? -1 : 1;
    if (back) stretches.reverse();
    const start = (s: (typeof stretches)[number]) => place.x((way > 0 ? s.from : s.to) * dot) - way * early;
    const end = (s: (typeof stretches)[number]) => place.x((way > 0 ? s.to : s.from) * dot) - way * early;
    const [first, last] = [stretches[0], stretches[stretches.length - 1]];
    line(`G0X${decimal(start(first) - way * (runUp - early))}Y${decimal(place.y((row + 0.5) * dot))}S0`);
    line(`G1X${decimal(start(first))}S0`);
    let at = start(first);
    for (const stretch of stretches) {
      const blank = way * (start(stretch) - at);
      if (blank >= BLANK_MM) line(`G0X${decimal(start(stretch))}S0`);
      else if (blank > 0) line(`G1X${decimal(start(stretch))}S0`);
      line(`G1X${decimal(end(stretch))}S${power}`);
      at = end(stretch);
    }
    line(`G1X${decimal(end(last) + way * runUp)}S0`);
    if (wish.bothWays) back = !back;
  }
  return { rows, cornersMm: rows > 0 ? ((right - left) * rows - run) * dot : 0 };
}
