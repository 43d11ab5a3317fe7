import { workSlice, type Work } from "../maths/work";
import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { circleThrough } from "./circle";
import { fitOpen, pieceKnots, type Piece } from "./fit";
import { direction, lineOf, type Point } from "./line";
import { type Ring, type Rings } from "../polygon/rings";

/** Curves stay this near to the polygons that they replace, in mm, unless it is said otherwise. */
const TOLERANCE_MM = 0.008;
/** A curve is fitted in units of this many mm, the size of a pixel to the fit. */
const UNIT_MM = 0.02;
/** Long straight pieces get a point every so many mm, so that a curve cannot leave them between two. */
const APART_MM = 0.25;
/** Points nearer than this are one: whole units of clipping have no direction below. */
const ONE_MM = 0.012;
/** Cosine of the turn from which on a vertex is a corner and no step of an arc: 30 degrees. */
const CORNER = 0.866;

/** Clean polygons as outlines of few curves: corners where a polygon turns at once, curves where it turns little by little. */
export function* fitRings(rings: Rings, toleranceMm = TOLERANCE_MM): Work<KnotPath[]> {
  const paths: KnotPath[] = [];
  for (const [k, ring] of rings.entries()) {
    const work = workSlice(fitRing(ring, toleranceMm), k / rings.length, (k + 1) / rings.length);
    const knots = yield* work;
    if (knots.length > 1) paths.push({ knots, closed: true });
  }
  return paths;
}

function* fitRing(ring: Ring, toleranceMm: number): Work<Knot[]> {
  const points = spaced(ring);
  const count = points.length / 2;
  if (count < 3) return [];
  const tolerance = toleranceMm / UNIT_MM;
  const corners = cornersOf(points);
  const pieces: Piece[] = [];
  if (corners.length === 0) {
    const round = circleThrough(points, tolerance);
    if (round) return round.map(inMm);
    const from = longest(points);
    const way = direction(at(points, from), at(points, from + 1));
    const line = lineOf(dense(points, from, from + count), false);
    pieces.push(...(yield* fitOpen(line, way, way, tolerance, true)));
  } else
    for (const [k, from] of corners.entries()) {
      const next = corners[(k + 1) % corners.length];
      const to = next > from ? next : next + count;
      const line = lineOf(dense(points, from, to), false);
      pieces.push(...(yield* workSlice(fitOpen(line, null, null, tolerance, true), k / corners.length, 1)));
    }
  return pieceKnots(pieces).map(inMm);
}

/** A ring's points in units, without those that lie on the one before. */
function spaced(ring: Ring): number[] {
  const points: number[] = [];
  for (let k = 0; k < ring.length; k += 2) {
    const [x, y] = [ring[k] / UNIT_MM, ring[k + 1] / UNIT_MM];
    const last = points.length - 2;
    if (last >= 0 && isOne(points[last], points[last + 1], x, y)) continue;
    points.push(x, y);
  }
  const last = points.length - 2;
  if (last > 0 && isOne(points[last], points[last + 1], points[0], points[1])) points.length = last;
  return points;
}

const isOne = (ax: number, ay: number, bx: number, by: number): boolean => {
  const [dx, dy] = [(bx - ax) * UNIT_MM, (by - ay) * UNIT_MM];
  return dx * dx + dy * dy < ONE_MM * ONE_MM;
};

const at = (points: readonly number[], k: number): Point => {
  const count = points.length / 2;
  const i = 2 * ((k + count) % count);
  return [points[i], points[i + 1]];
};

/** Where the longest straight piece begins: a curve begins there with a direction that is known. */
function longest(points: readonly number[]): number {
  let [best, length] = [0, 0];
  for (let k = 0; k < points.length / 2; k++) {
    const [a, b] = [at(points, k), at(points, k + 1)];
    const along = (b[0] - a[0]) * (b[0] - a[0]) + (b[1] - a[1]) * (b[1] - a[1]);
    if (along > length) [best, length] = [k, along];
  }
  return best;
}

function cornersOf(points: readonly number[]): number[] {
  const found: number[] = [];
  for (let k = 0; k < points.length / 2; k++) {
    const [a, b] = [direction(at(points, k - 1), at(points, k)), direction(at(points, k), at(points, k + 1))];
    if (a[0] * b[0] + a[1] * b[1] < CORNER) found.push(k);
  }
  return found;
}

/** The points from one to another, and enough between them. */
function dense(points: readonly number[], from: number, to: number): number[] {
  const out: number[] = [...at(points, from)];
  for (let k = from; k < to; k++) {
    const [a, b] = [at(points, k), at(points, k + 1)];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const parts = Math.max(1, Math.ceil((Math.sqrt(dx * dx + dy * dy) * UNIT_MM) / APART_MM));
    for (let s = 1; s < parts; s++) out.push(a[0] + (dx * s) / parts, a[1] + (dy * s) / parts);
    out.push(...b);
  }
  return out;
}

const mm = (p: Point): Point => [p[0] * UNIT_MM, p[1] * UNIT_MM];
const inMm = (knot: Knot): Knot => ({
  at: mm(knot.at),
  ...(knot.in ? { in: mm(knot.in) } : {}),
  ...(knot.out ? { out: mm(knot.out) } : {}),
});
