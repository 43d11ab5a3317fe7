import { type Work } from "../maths/work";
import { type PathSet } from "./pathSet";

/** A path as straight pieces: x, y of every corner, in mm. The last point of a closed one is its first again. */
export interface Polyline {
  readonly points: Float64Array;
  readonly closed: boolean;
}

/**
 * The paths of a set as straight pieces that stay within a tolerance of the curves. A cubic segment is cut into n
 * equal parts of its parameter; with M the larger of its two second differences, the chord is off by at most
 * 6 M / (8 n^2), so n is the least whole number that brings this under the tolerance.
 *
 * @param toleranceMm  greatest distance between curve and chord, above 0
 * @see Wang, "The subdivision method for finding the intersection between two Bezier curves or surfaces",
 *      Zhejiang University Journal, 1984
 */
export function flattened(set: PathSet, toleranceMm: number): Polyline[] {
  return Array.from(set.closed, (_, k) => flattenedPath(set, k, toleranceMm));
}

/** Points of curves between two slices. */
const AT_ONCE = 8192;

/** As `flattened`, of many paths, in slices. */
export function* flattenedInSlices(set: PathSet, toleranceMm: number): Work<Polyline[]> {
  const lines: Polyline[] = [];
  let told = 0;
  for (let k = 0; k < set.closed.length; k++) {
    if (set.starts[k] >= told) {
      told = set.starts[k] + AT_ONCE;
      yield k / set.closed.length;
    }
    lines.push(flattenedPath(set, k, toleranceMm));
  }
  return lines;
}

function flattenedPath({ points, starts, closed }: PathSet, k: number, toleranceMm: number): Polyline {
  const out: number[] = [points[2 * starts[k]], points[2 * starts[k] + 1]];
  for (let p = starts[k]; p + 3 < starts[k + 1]; p += 3) {
    const c = points.subarray(2 * p, 2 * p + 8);
    const bend = Math.max(
      span(c[0] - 2 * c[2] + c[4], c[1] - 2 * c[3] + c[5]),
      span(c[2] - 2 * c[4] + c[6], c[3] - 2 * c[5] + c[7]),
    );
    const straight = c[0] === c[2] && c[1] === c[3] && c[4] === c[6] && c[5] === c[7];
    const parts = straight ? 1 : Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / toleranceMm)));
    for (let s = 1; s < parts; s++) {
      const t = s / parts;
      const u = 1 - t;
      const [a, b, d, e] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
      out.push(a * c[0] + b * c[2] + d * c[4] + e * c[6], a * c[1] + b * c[3] + d * c[5] + e * c[7]);
    }
    out.push(c[6], c[7]);
  }
  return { points: Float64Array.from(out), closed: closed[k] === 1 };
}

/** Length of a polyline in mm. */
export function lengthOf({ points }: Polyline): number {
  let length = 0;
  for (let i = 2; i < points.length; i += 2)
    length += span(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
  return length;
}

/** Length of a step; unlike the built-in of that name it has the same bits in every engine. */
const span = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);

/** The closed paths of a set as rings of straight pieces, each ended before its first point comes again. */
export const ringsOf = (set: PathSet, toleranceMm: number): Float64Array[] =>
  asRings(flattened(set, toleranceMm));

/** As `ringsOf`, of many paths, in slices. */
export function* ringsInSlices(set: PathSet, toleranceMm: number): Work<Float64Array[]> {
  return asRings(yield* flattenedInSlices(set, toleranceMm));
}

const asRings = (lines: readonly Polyline[]): Float64Array[] =>
  lines.filter((line) => line.closed).map(({ points }) => points.subarray(0, points.length - 2));
