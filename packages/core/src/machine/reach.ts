import { MachineError } from "./error";
import { reachable, type CommonProfile } from "./profile";
import { decimal } from "./program";

/** Places are written to a tenth of a micrometre. */
export const NEAR_MM = 2e-4;

/** Everything that the head does lies within what it reaches. */
export function checkReach(
  x: Float64Array,
  y: Float64Array,
  machine: Pick<CommonProfile, "bed" | "margins" | "name">,
): void {
  const reach = reachable(machine);
  const [bottom, top] = [machine.bed.heightMm - reach.y - reach.height, machine.bed.heightMm - reach.y];
  for (let k = 0; k < x.length; k++) {
    if (x[k] === 0 && y[k] === 0) continue; // where the head rests
    const beyond =
      x[k] < reach.x - 1e-6 ||
      x[k] > reach.x + reach.width + 1e-6 ||
      y[k] < bottom - 1e-6 ||
      y[k] > top + 1e-6;
    if (beyond)
      throw new MachineError(
        "A place that the head would have to reach",
        `${decimal(x[k])}, ${decimal(machine.bed.heightMm - y[k])} mm`,
        `${machine.name} reaches ${decimal(reach.x)} to ${decimal(reach.x + reach.width)} mm across and ${decimal(reach.y)} to ${decimal(reach.y + reach.height)} mm down, run-up of the head included`,
      );
  }
}

/** Whether the head comes to a place, in mm of the machine, y up. */
export function reachOf(machine: CommonProfile): (x: number, y: number) => boolean {
  const { x: left, y: top, width, height } = reachable(machine);
  const upper = machine.bed.heightMm - top + NEAR_MM;
  const lower = machine.bed.heightMm - top - height - NEAR_MM;
  return (x, y) => x >= left - NEAR_MM && x <= left + width + NEAR_MM && y >= lower && y <= upper;
}
