import { type Work } from "../maths/work";
import { type PathSet } from "../path/pathSet";
import { direction, span, type Point } from "./line";

/** A place where a path bends, and how. */
export interface Bend {
  readonly at: Point;
  /** Radius in mm; 0 where two pieces meet at an angle. */
  readonly radiusMm: number;
  /** How far the path turns there, in degrees, where two pieces meet at an angle; otherwise 0. */
  readonly turnDegrees: number;
  /** Whether the area that a clockwise path goes round bulges there. */
  readonly outer: boolean;
}

/** Places looked at along each curve. */
const PARTS = 12;
/** Turns under this, in degrees, are none: two curves meet smoothly as far as a machine can tell. */
const SMOOTH_DEGREES = 10;
/** Curves looked at between two slices. */
const CURVES_AT_ONCE = 1024;
/** Wider than this nothing counts as a bend, in mm. */
const STRAIGHT_MM = 1000;

/** The corners of a set's paths, and of every curve the place where it bends most. */
export function* bendsOf({ points, starts, closed }: PathSet): Work<Bend[]> {
  const bends: Bend[] = [];
  let looked = 0;
  for (let k = 0; k < closed.length; k++) {
    const segments: Float64Array[] = [];
    for (let p = starts[k]; p + 3 < starts[k + 1]; p += 3) {
      const c = points.subarray(2 * p, 2 * p + 8);
      if (span(c[6] - c[0], c[7] - c[1]) > 0 || span(c[2] - c[0], c[3] - c[1]) > 0) segments.push(c);
    }
    for (const [s, c] of segments.entries()) {
      if (looked++ % CURVES_AT_ONCE === 0) yield k / closed.length;
      const sharpest = sharpestOn(c);
      if (sharpest) bends.push(sharpest);
      const next = segments[s + 1] ?? (closed[k] ? segments[0] : null);
      const corner = next && cornerBetween(c, next);
      if (corner) bends.push(corner);
    }
  }
  return bends;
}

function cornerBetween(a: Float64Array, b: Float64Array): Bend | null {
  const [before, after] = [wayAt(a, true), wayAt(b, false)];
  const cosine = Math.max(-1, Math.min(1, before[0] * after[0] + before[1] * after[1]));
  const turnDegrees = (Math.acos(cosine) * 180) / Math.PI;
  if (turnDegrees < SMOOTH_DEGREES) return null;
  const outer = before[0] * after[1] - before[1] * after[0] > 0;
  return { at: [b[0], b[1]], radiusMm: 0, turnDegrees, outer };
}

/** Direction in which a curve leaves its beginning, or comes to its end. */
function wayAt(c: Float64Array, end: boolean): Point {
  const order = end ? [6, 4, 2, 0] : [0, 2, 4, 6];
  for (const other of order.slice(1)) {
    const [from, to] = end ? [other, order[0]] : [order[0], other];
    if (span(c[to] - c[from], c[to + 1] - c[from + 1]) > 1e-9)
      return direction([c[from], c[from + 1]], [c[to], c[to + 1]]);
  }
  return [0, 0];
}

/** Parts of a curve over which it bends on the whole: how it bends at one place alone is the noise of fitting it. */
const WINDOW = 3;

function sharpestOn(c: Float64Array): Bend | null {
  const at = Array.from({ length: PARTS + 1 }, (_, s) => placeOn(c, s / PARTS));
  let best: Bend | null = null;
  for (let s = 0; s + WINDOW <= PARTS; s++) {
    const [a, b] = [at[s], at[s + WINDOW]];
    let length = 0;
    for (let k = s; k < s + WINDOW; k++)
      length += span(at[k + 1].place[0] - at[k].place[0], at[k + 1].place[1] - at[k].place[1]);
    const cross = a.way[0] * b.way[1] - a.way[1] * b.way[0];
    const cosine = Math.max(-1, Math.min(1, a.way[0] * b.way[0] + a.way[1] * b.way[1]));
    const turn = Math.acos(cosine);
    if (turn < 1e-6) continue;
    const radiusMm = length / turn;
    if (radiusMm > STRAIGHT_MM || (best && radiusMm >= best.radiusMm)) continue;
    best = { at: at[s + 1].place, radiusMm, turnDegrees: 0, outer: cross > 0 };
  }
  return best;
}

function placeOn(c: Float64Array, t: number): { readonly place: Point; readonly way: Point } {
  const u = 1 - t;
  const of = (k: number): readonly [number, number] => {
    const [p, q, r, w] = [c[k], c[2 + k], c[4 + k], c[6 + k]];
    return [
      u * u * u * p + 3 * u * u * t * q + 3 * u * t * t * r + t * t * t * w,
      u * u * (q - p) + 2 * u * t * (r - q) + t * t * (w - r),
    ];
  };
  const [[x, dx], [y, dy]] = [of(0), of(1)];
  const speed = span(dx, dy);
  const way = speed > 1e-9 ? ([dx / speed, dy / speed] as const) : wayAt(c, t > 0.5);
  return { place: [x, y], way };
}
