import { type Work } from "../maths/work";
import { machineKindOf, type Machine } from "./machine";
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

/**
 * What to tell a machine before the rest of a program, so that what was broken off in the middle of a line is gone on with
 * where the beam went off, or the blade up: nothing is marked twice, nothing is left out.
 */
export function* resumeAt(lines: ProgramLines, at: Standing, machine: Machine): Work<Resumed> {
  const { resume } = machineKindOf(machine);
  return resume ? yield* resume(lines, at, machine) : { say: [], instead: null };
}
