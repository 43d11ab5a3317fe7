import { type Work } from "../maths/work";
import { GcodeReader } from "./gcode";
import { HpglReader } from "./hpgl";
import { UNITS } from "./knifePlan";
import { type KnifeCutter, type Machine } from "./machine";
import { type ProgramLines } from "./programLines";

/** How far a machine is in a program, as it says itself. */
export interface Standing {
  /** Lines that are done. */
  readonly line: number;
  /** Where in the next line the work ended, in mm of the machine; NaN where it does not say: at the end of the last line. */
  readonly x: number;
  readonly y: number;
  /** Moves of the next line that are left, that one in which it ended with them; 0 where none of it is done. */
  readonly left: number;
}

/** How a machine that was broken off is sent on. */
export interface Resumed {
  /** What it is told first; lines of no number. */
  readonly say: readonly string[];
  /** What goes out in the place of the next line, where that was half done. */
  readonly instead: string | null;
}

/** Lines read between two portions. */
const AT_ONCE = 20000;

/**
 * What to tell a machine before the rest of a program, so that what was broken off in the middle of a line is gone on with
 * where the beam went off, or the blade up: nothing is marked twice, nothing is left out.
 */
export function* resumeAt(lines: ProgramLines, at: Standing, machine: Machine): Work<Resumed> {
  if (machine.kind === "knife-cutter") return resumedPlot(lines, at, machine);
  if (machine.kind === "film-printer" || (at.line === 0 && at.left === 0)) return { say: [], instead: null };
  const reader = new GcodeReader(machine);
  for (let k = 0; k < at.line; k++) {
    if (k % AT_ONCE === 0) yield k / at.line;
    reader.read(lines.text(k), k + 1);
  }
  const [x, y] = Number.isFinite(at.x) && Number.isFinite(at.y) ? [at.x, at.y] : reader.place;
  return { say: reader.goOnAt(x, y, lines.text(at.line)), instead: null };
}

/** A plot stands by its units and its pass; a line half cut is lowered again where the blade came up. */
function resumedPlot(lines: ProgramLines, { line, x, y, left }: Standing, machine: KnifeCutter): Resumed {
  if (line < 2) return { say: [], instead: null };
  const units = lines.text(1).replaceAll("OA;", "");
  let pass = "";
  for (let k = line - 1; k > 1 && !pass; k--) pass = /SP\d+;VS[\d.]+;/.exec(lines.text(k))?.[0] ?? "";
  const say = [`${units}${pass}`];
  const reader = new HpglReader(machine);
  reader.read(units, 1);
  const { moves } = reader.read(lines.text(line), line + 1);
  // Nothing was cut before the blade was down and had gone on.
  const from = moves.length - left;
  const cut = moves.findIndex((m) => m.power > 0);
  if (left === 0 || cut < 0 || from < cut) return { say, instead: null };
  const place = (px: number, py: number): string => `${Math.round(px * UNITS)},${Math.round(py * UNITS)}`;
  const rest = moves.slice(from).filter((m) => m.power > 0);
  if (rest.length === 0) return { say, instead: "PU;OA;" };
  return { say, instead: `PU${place(x, y)};PD${rest.map((m) => place(m.x, m.y)).join(",")};PU;OA;` };
}
