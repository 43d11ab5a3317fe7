import { workSlice, type Work } from "../maths/work";
import { type Knot } from "../path/outline";
import { scaledKnot } from "../path/scaled";
import { fitClosed, type Fitting } from "../fit/fit";
import { lineOf } from "../fit/line";

/** Points a coarse outline is evened out over, as a share of how coarse it is. */
const SIGMA = 0.5;
/** A point of every so many, in coarse pixels. */
const APART = 0.35;

/**
 * Knots of closed outlines that run in steps, as in a small picture made large: they are evened out over a length, and
 * their corners are looked for on that scale, where steps are none. What lies near a corner is not used, so corners stay sharp.
 *
 * @param lines   of each outline x, y of its points after each other, in pixels
 * @param coarse  length over which they are evened out, in pixels, 1 or more
 */
export function* fitCoarse(
  lines: readonly ArrayLike<number>[],
  coarse: number,
  fitting: Fitting,
): Work<Knot[][]> {
  const fitted: Knot[][] = [];
  for (const [k, points] of lines.entries()) {
    yield k / lines.length;
    const work = fitOne(points, coarse, fitting);
    fitted.push(yield* workSlice(work, k / lines.length, (k + 1) / lines.length));
  }
  return fitted;
}

function* fitOne(points: ArrayLike<number>, coarse: number, fitting: Fitting): Work<Knot[]> {
  const even = evened(points, coarse);
  const scale = 1 / coarse;
  const tolerance = Math.max(fitting.tolerance, SIGMA * coarse) * scale;
  const knots = yield* fitClosed(
    even.map((v) => v * scale),
    { ...fitting, tolerance },
  );
  return knots.map((knot) => scaledKnot(knot, coarse));
}

/** A closed line's points at even distances, each the mean of those around it, nearer ones more. */
function evened(points: ArrayLike<number>, coarse: number): number[] {
  const line = lineOf(points, true);
  const count = Math.max(8, Math.round(line.length / (APART * coarse)));
  const step = line.length / count;
  const [x, y] = [new Float64Array(count), new Float64Array(count)];
  for (let k = 0, i = 0; k < count; k++) {
    const s = k * step;
    while (line.at[i + 1] < s) i++;
    const t = (s - line.at[i]) / (line.at[i + 1] - line.at[i] || 1);
    x[k] = line.x[i] + (line.x[i + 1] - line.x[i]) * t;
    y[k] = line.y[i] + (line.y[i + 1] - line.y[i]) * t;
  }
  // Two running means one after the other weigh as a tent does.
  const reach = Math.min(Math.floor(count / 8), Math.round((SIGMA * coarse) / step));
  for (const plane of [x, y]) for (let turn = 0; turn < 2; turn++) plane.set(runningMean(plane, reach));
  return Array.from({ length: 2 * count }, (_, k) => (k % 2 === 0 ? x : y)[k >> 1]);
}

function runningMean(values: Float64Array, reach: number): Float64Array {
  const count = values.length;
  const out = new Float64Array(count);
  let sum = 0;
  for (let k = -reach; k <= reach; k++) sum += values[(k + count) % count];
  for (let k = 0; k < count; k++) {
    out[k] = sum / (2 * reach + 1);
    sum += values[(k + reach + 1) % count] - values[(k - reach + count) % count];
  }
  return out;
}
