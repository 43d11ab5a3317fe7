import { curveThrough, type CurvePoint } from "../tone/curve";

/** How a process answers, fitted to what was measured. */
export interface Response {
  /** Share that is made and share that is seen, both rising from 0, 0 to 1, 1. */
  readonly points: readonly CurvePoint[];
  /** How far readings lie from the curve, in percent: the root of the mean square, and the most. */
  readonly errorPercent: number;
  readonly mostPercent: number;
}

/** How much smoother a curve is wanted than its readings are. */
const SMOOTH = 0.1;
/** A curve rises by this at least from point to point. */
const LEAST_RISE = 0.002;

/**
 * A smooth curve that rises everywhere, through readings of a step wedge: its second differences weighed against its
 * distance from the readings, then pooled where it would fall. Its ends are the bare and the full material.
 *
 * @param readings  share made and share seen, 0..1, by rising share; three at least
 * @throws RangeError when there are too few, or nothing rises
 * @see Whittaker, "On a new method of graduation", Proc. Edinburgh Math. Soc. 41, 1923
 * @see Barlow, Bartholomew, Bremner & Brunk, "Statistical inference under order restrictions", 1972: pooling
 */
export function fitResponse(readings: readonly CurvePoint[]): Response {
  const inside = readings.filter(([made]) => made > 0 && made < 1).toSorted((a, b) => a[0] - b[0]);
  if (inside.length < 3)
    throw new RangeError(`${inside.length} readings between bare and full; 3 or more are needed`);
  const given: CurvePoint[] = [[0, 0], ...inside, [1, 1]];
  const smooth = graduated(
    given.map((p) => p[1]),
    given.map((p) => p[0]),
  );
  const risen = rising(smooth);
  const points = given.map(([made], k): CurvePoint => [made, risen[k]]);
  const curve = curveThrough(points);
  const off = readings.map(([made, seen]) => Math.abs(curve(made) - seen));
  const square = off.reduce((sum, d) => sum + d * d, 0) / off.length;
  const percent = (v: number) => Math.round(v * 1e4) / 100;
  const rounded = points.map(([a, b]): CurvePoint => [Math.round(a * 1e4) / 1e4, Math.round(b * 1e5) / 1e5]);
  return {
    points: rounded,
    errorPercent: percent(Math.sqrt(square)),
    mostPercent: percent(Math.max(...off)),
  };
}

/** Values moved so that their bends are small; the ends stay. Gauss–Seidel on the normal equations. */
function graduated(values: readonly number[], at: readonly number[]): number[] {
  const z = [...values];
  const n = z.length;
  // Second differences by divided steps, so that uneven steps bend alike.
  const bends = Array.from({ length: n - 2 }, (_, k) => {
    const [a, b] = [at[k + 1] - at[k], at[k + 2] - at[k + 1]];
    const unit = 0.05 * 0.05;
    return [(2 * unit) / (a * (a + b)), (-2 * unit) / (a * b), (2 * unit) / (b * (a + b))];
  });
  for (let round = 0; round < 400; round++)
    for (let k = 1; k < n - 1; k++) {
      let [diagonal, right] = [1, values[k]];
      for (let b = Math.max(0, k - 2); b <= Math.min(n - 3, k); b++) {
        const own = bends[b][k - b];
        diagonal += SMOOTH * own * own;
        for (let j = 0; j < 3; j++) if (b + j !== k) right -= SMOOTH * own * bends[b][j] * z[b + j];
      }
      z[k] = right / diagonal;
    }
  return z;
}

/** The nearest values that rise from 0 to 1. */
function rising(values: readonly number[]): number[] {
  const pools: { sum: number; count: number }[] = [];
  for (const v of values) {
    pools.push({ sum: v, count: 1 });
    while (pools.length > 1) {
      const [a, b] = [pools[pools.length - 2], pools[pools.length - 1]];
      if (a.sum / a.count < b.sum / b.count) break;
      pools.splice(-2, 2, { sum: a.sum + b.sum, count: a.count + b.count });
    }
  }
  const out = pools.flatMap(({ sum, count }) => Array<number>(count).fill(sum / count));
  const last = out.length - 1;
  out[0] = 0;
  out[last] = 1;
  for (let k = 1; k < last; k++) out[k] = Math.max(out[k], out[k - 1] + LEAST_RISE);
  for (let k = last - 1; k > 0; k--) out[k] = Math.min(out[k], out[k + 1] - LEAST_RISE);
  return out;
}
