import { type Work } from "../../../maths/work";
import { GcodeReader } from "../../gcode";
import { type ProgramLines } from "../../programLines";
import { type Resumed, type Standing } from "../../resume";
import { type BedLaser } from "./profile";

/** Lines read between two slices. */
const AT_ONCE = 20000;

/** What stands in G-code from line to line is said again: speed, power, and where the beam went off. */
export function* resumedRows(lines: ProgramLines, at: Standing, machine: BedLaser): Work<Resumed> {
  if (at.line === 0 && at.left === 0) return { say: [], instead: null };
  const reader = new GcodeReader(machine);
  for (let k = 0; k < at.line; k++) {
    if (k % AT_ONCE === 0) yield k / at.line;
    reader.read(lines.text(k), k + 1);
  }
  const [x, y] = Number.isFinite(at.x) && Number.isFinite(at.y) ? [at.x, at.y] : reader.place;
  return { say: reader.goOnAt(x, y, lines.text(at.line)), instead: null };
}
