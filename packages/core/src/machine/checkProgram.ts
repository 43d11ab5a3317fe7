import { workSlice, type Work } from "../maths/work";
import { ProgramError } from "./gcode";
import { type Job } from "./job";
import { machineKindOf, type Machine } from "./machine";
import { type CheckedPass } from "./program";
import { ProgramLines } from "./programLines";

/**
 * Looks through the bytes of a program before they are sent to a machine: nothing in it may mark outside of its passes,
 * travel or stand still with the beam on or the knife down, leave what the machine reaches, or come after the end.
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
  const kind = machineKindOf(machine);
  const lines = yield* workSlice(ProgramLines.of(bytes), 0, 0.1);
  if (mediaType !== kind.program.mediaType)
    throw new ProgramError(1, lines.text(0), `${mediaType} is not for ${machine.name}`);
  if (kind.check) yield* workSlice(kind.check(lines, machine, passes), 0.1, 1);
  return lines;
}

/**
 * Holds the marks of a program against the job that it was made of, where its kind of machine can: a bitmap's pass marks
 * its dots and no others, a pass of lines goes along its lines and nowhere else.
 *
 * @param at  where the top left of the job lies on the bed, in mm from the bed's own
 * @throws ProgramError that names the line and why
 */
export function* checkMarks(
  lines: ProgramLines,
  job: Job,
  machine: Machine,
  passes: readonly CheckedPass[],
  at: readonly [number, number],
): Work<void> {
  const { checkMarks: check } = machineKindOf(machine);
  if (check) yield* check(lines, job, machine, passes, at);
}
