import { type Work } from "../maths/work";
import { BurnedDots, burnedLines, type DotGrid } from "./burned";
import { Controller, type Burned, type ControllerMachine } from "./controller";
import { type Machine } from "../machine/machine";
import { type Moves } from "../machine/moves";

/**
 * What a simulated machine is besides what is said of it, as real ones are: a little slower to speed up, a moment to come to
 * rest, a moment for every line it reads.
 */
export const asBuilt = (machine: Machine): ControllerMachine => ({
  ...machine,
  accelMmPerS2: 0.97 * machine.accelMmPerS2,
  lookAhead: 900,
  settleSeconds: 0.001,
  leastSeconds: 0.00003,
});

/** What a simulated machine made of a program. */
export interface Simulated {
  readonly seconds: number;
  readonly passes: readonly { readonly name: string; readonly seconds: number }[];
  /** One a grid. */
  readonly dots: readonly BurnedDots[];
  /** Whatever lies along no row. */
  readonly lines: readonly Float64Array[];
}

/** Moves made between two slices. */
const AT_ONCE = 20000;

/**
 * A program run through the inside of a simulated machine at once.
 * @param grids  of the bitmaps, which are its first passes
 */
export function* simulate(moves: Moves, machine: Machine, grids: readonly DotGrid[] = []): Work<Simulated> {
  const controller = new Controller(asBuilt(machine));
  const dots = grids.map((grid) => new BurnedDots(grid));
  const rest: Burned[] = [];
  const seconds = new Float64Array(moves.passes.length);
  const passOfLine = new Map<number, number>();
  const take = (made: ReturnType<Controller["take"]>): void => {
    for (const { line, from, to, burned } of made) {
      seconds[passOfLine.get(line)!] += to - from;
      // Dots come first; lines that are cut may run along a row, and are none.
      const grid = dots[passOfLine.get(line)!];
      for (const stretch of burned) if (!grid?.add(stretch)) rest.push(stretch);
    }
  };
  for (let k = 0; k < moves.count; k++) {
    if (k % AT_ONCE === 0) yield k / moves.count;
    passOfLine.set(moves.line[k], moves.pass[k]);
    const [x, y, power, speed] = [moves.x[k + 1], moves.y[k + 1], moves.power[k], moves.speed[k]];
    take(controller.take({ x, y, power, speed, pause: moves.pause[k], line: moves.line[k] }));
  }
  take(controller.rest());
  const passes = moves.passes.map((name, k) => ({ name, seconds: seconds[k] }));
  return { seconds: controller.seconds, passes, dots, lines: burnedLines(rest) };
}

/** Where the dots of a job's bitmaps lie on the bed. */
export const gridOf = (
  {
    bits,
    dotsPerInch,
  }: { readonly bits: { readonly width: number; readonly height: number }; readonly dotsPerInch: number },
  at: readonly [number, number],
  { bed }: Machine,
): DotGrid => ({
  ...{ width: bits.width, height: bits.height, dotsPerInch },
  ...{ xMm: at[0], topMm: bed.heightMm - at[1] },
});
