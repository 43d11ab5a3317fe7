import { workSlice, type Work } from "../maths/work";
import { polygonOf, type Knot } from "../path/outline";
import { ringArea } from "../polygon/rings";
import { circleThrough } from "./circle";
import { cornersOf, cornersWithin, MEETS, ROUNDED, type Corner } from "./corners";
import { fitCubic, type Cubic } from "./cubic";
import { direction, indexAt, lineOf, placeAt, span, type Line, type Point } from "./line";

export interface Fitting {
  /** Greatest distance, in pixels, of the points from what is put in their place. */
  readonly tolerance: number;
  /** How readily a bend counts as a corner, 0..1. */
  readonly corners: number;
}

/** A direction is taken over so many pixels to either side. */
const TANGENT = 5;
/** A straight run is taken where a curve would not go much further. */
const STRAIGHT = 0.8;
/** A chord beside a curve leaves it to one side all along: it may lie off by this share of the tolerance. */
const CHORD = 0.5;
/** Points with which a curve is tried first. */
const FIRST = 8;
/** Points of an outline's sides that are looked at between two slices. */
const POINTS_AT_ONCE = 1 << 14;
/** As how many points the work of making a side counts. */
const POINTS_A_SIDE = 8;

/** A straight piece, or a curve, from one point to another. */
export interface Piece {
  readonly from: Point;
  readonly to: Point;
  readonly curve: Cubic | null;
}

/** An outline of at most so many points may be of a few pixels: all of it may lie within the tolerance of one place. */
const FEW_POINTS = 48;
/** Share of such an outline's area that is kept at least. */
const KEPT = 0.7;

/**
 * Knots of a closed outline through its points: corners are sharp, straight runs are lines, the rest is as few cubic
 * curves as stay within the tolerance, each taken as far as it goes. A circle comes out as one. What is so small that
 * nothing would be left of it keeps its own points: it is dropped by those who count what they drop, or not at all.
 *
 * @param points  x, y after each other, in pixels; the last joins the first again
 */
export function* fitClosed(points: ArrayLike<number>, fitting: Fitting): Work<Knot[]> {
  const knots = yield* fitWhole(points, fitting);
  const count = points.length / 2;
  if (count > FEW_POINTS) return knots;
  const own = Math.abs(ringArea(points));
  const left = knots.length < 2 ? 0 : Math.abs(ringArea(polygonOf(knots).flat()));
  if (left >= KEPT * own && left * KEPT <= own) return knots;
  return Array.from({ length: count }, (_, k): Knot => ({ at: [points[2 * k], points[2 * k + 1]] }));
}

function* fitWhole(points: ArrayLike<number>, { tolerance, corners }: Fitting): Work<Knot[]> {
  const round = circleThrough(points, tolerance);
  if (round) return round;
  yield 0;
  const loop = lineOf(points, true);
  yield 0;
  const found = yield* cornersOf(loop, corners);
  if (found.length === 0) {
    yield 0;
    return pieceKnots(yield* fitLoop(evened(loop, true), tolerance));
  }
  const sides: Line[] = [];
  const straight: (Straight | null)[] = [];
  let looked = 0;
  for (const [k, corner] of found.entries()) {
    const line = side(loop, corner, found[(k + 1) % found.length]);
    sides.push(line);
    looked += line.x.length + POINTS_A_SIDE;
    if (looked > POINTS_AT_ONCE) {
      yield 0;
      looked = 0;
    }
    straight.push(straightThrough(line, tolerance));
  }
  // Where two sides are straight all along, they meet where their lines do.
  const places = found.map(({ place }, k) => {
    const [before, after] = [straight[(k + found.length - 1) % found.length], straight[k]];
    return (before && after && crossing(before, after, place)) ?? place;
  });
  const pieces: Piece[] = [];
  for (const [k, line] of sides.entries()) {
    const [from, to] = [places[k], places[(k + 1) % places.length]];
    // Where two sides end in one place, as at the tip of a thin stroke, their lines are not the way between the places.
    if (straight[k] && liesAlong(line, from, to, tolerance)) pieces.push({ from, to, curve: null });
    else {
      const ended = withEnds(line, from, to);
      if (ended.x.length > POINTS_AT_ONCE) yield k / sides.length;
      const work = fitOpen(evened(ended, false), null, null, tolerance);
      pieces.push(...(yield* workSlice(work, k / sides.length, (k + 1) / sides.length)));
    }
  }
  return pieceKnots(pieces);
}

/**
 * Knots of an open line through its points, its ends kept as they are: corners are sharp, the rest is as `fitClosed` has it.
 *
 * @param points  x, y after each other, in pixels
 */
export function* fitSides(points: ArrayLike<number>, { tolerance, corners }: Fitting): Work<Knot[]> {
  const line = lineOf(points, false);
  const last = line.x.length - 1;
  const cuts = [0, ...(yield* cornersWithin(line, corners)).map(({ at }) => indexAt(line, at)), last];
  const pieces: Piece[] = [];
  for (let k = 0; k + 1 < cuts.length; k++) {
    if (cuts[k + 1] <= cuts[k]) continue;
    const stretch: number[] = [];
    for (let i = cuts[k]; i <= cuts[k + 1]; i++) stretch.push(line.x[i], line.y[i]);
    const at = (j: number) => j / cuts.length;
    pieces.push(
      ...(yield* workSlice(fitOpen(lineOf(stretch, false), null, null, tolerance), at(k), at(k + 1))),
    );
  }
  const ends: Knot[] = pieces.map(({ from, curve }, k) => {
    const before = k > 0 ? pieces[k - 1].curve : null;
    return { at: from, ...(before ? { in: before.in } : {}), ...(curve ? { out: curve.out } : {}) };
  });
  const final = pieces[pieces.length - 1];
  return [...ends, { at: final.to, ...(final.curve ? { in: final.curve.in } : {}) }];
}

/** A point of a straight line and its direction. */
interface Straight {
  readonly place: Point;
  readonly way: Point;
}

/** The straight line that comes nearest to the points between the ends of a side; null when one lies off it. */
function straightThrough({ x, y }: Line, tolerance: number): Straight | null {
  const count = x.length - 2;
  if (count < 2)
    return { place: [x[0], y[0]], way: direction([x[0], y[0]], [x[x.length - 1], y[y.length - 1]]) };
  let [mx, my] = [0, 0];
  for (let k = 1; k <= count; k++) {
    mx += x[k] / count;
    my += y[k] / count;
  }
  let [xx, xy, yy] = [0, 0, 0];
  for (let k = 1; k <= count; k++) {
    const [dx, dy] = [x[k] - mx, y[k] - my];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  // The longer axis of the points' spread.
  const root = Math.sqrt((xx - yy) * (xx - yy) + 4 * xy * xy);
  const way =
    xx >= yy ? direction([0, 0], [xx - yy + root, 2 * xy]) : direction([0, 0], [2 * xy, yy - xx + root]);
  for (let k = 1; k <= count; k++)
    if (Math.abs(way[0] * (y[k] - my) - way[1] * (x[k] - mx)) > tolerance) return null;
  return { place: [mx, my], way };
}

/** Whether the points between the ends of a side lie along the straight piece between two places. */
function liesAlong({ x, y }: Line, from: Point, to: Point, tolerance: number): boolean {
  const way = direction(from, to);
  for (let k = 1; k < x.length - 1; k++)
    if (Math.abs(way[0] * (y[k] - from[1]) - way[1] * (x[k] - from[0])) > tolerance) return false;
  return true;
}

function crossing(a: Straight, b: Straight, near: Point): Point | null {
  const cross = a.way[0] * b.way[1] - a.way[1] * b.way[0];
  if (Math.abs(cross) < 0.05) return null;
  const t = ((b.place[0] - a.place[0]) * b.way[1] - (b.place[1] - a.place[1]) * b.way[0]) / cross;
  const place: Point = [a.place[0] + a.way[0] * t, a.place[1] + a.way[1] * t];
  return span(place[0] - near[0], place[1] - near[1]) <= MEETS ? place : null;
}

function withEnds({ x, y }: Line, from: Point, to: Point): Line {
  const points: number[] = [...from];
  for (let k = 1; k < x.length - 1; k++) points.push(x[k], y[k]);
  points.push(...to);
  return lineOf(points, false);
}

/** Shares of the way to the middle of its neighbours that a point goes, in turns: there, and a little further back. */
const EVENING = [0.5, -0.53, 0.5, -0.53];

/**
 * Points without the waves, a tenth of a pixel high, that straight interpolation of grey leaves along a slanting edge.
 *
 * @see Taubin, "A signal processing approach to fair surface design", SIGGRAPH 1995: there and back, no bend is flattened
 */
function evened(line: Line, closed: boolean): Line {
  const count = closed ? line.x.length - 1 : line.x.length; // of a closed line the last point is the first again
  const [x, y] = [line.x.slice(0, count), line.y.slice(0, count)];
  const [first, last] = closed ? [0, count - 1] : [1, count - 2];
  for (const share of EVENING)
    for (const plane of [x, y]) {
      // Of the place before only what it was is needed.
      let before = plane[first > 0 ? first - 1 : count - 1];
      const start = plane[0];
      for (let k = first; k <= last; k++) {
        const own = plane[k];
        const after = k + 1 < count ? plane[k + 1] : start;
        plane[k] = own + share * ((before + after) / 2 - own);
        before = own;
      }
    }
  const points = new Float64Array(2 * count);
  for (let k = 0; k < count; k++) {
    points[2 * k] = x[k];
    points[2 * k + 1] = y[k];
  }
  return lineOf(points, closed);
}

/** A loop of at most so many points is begun at several places, to see from which the fewest pieces go round. */
const TRIED = 3000;

/** A closed line without corners. Where the first piece begins decides how the others fall. */
function* fitLoop(loop: Line, tolerance: number): Work<Piece[]> {
  const starts = [extreme(loop.y), extreme(loop.x)];
  if (loop.x.length > TRIED) starts.length = 1;
  let best: Piece[] | null = null;
  for (const [k, start] of starts.entries()) {
    const way = tangentAt(loop, loop.at[start]);
    const line = turned(loop, start);
    const fitted = yield* workSlice(
      fitOpen(line, way, way, tolerance),
      k / starts.length,
      (k + 1) / starts.length,
    );
    const even = yield* balanced(line, fitted, way);
    if (!best || even.length < best.length || (even.length === best.length && offOf(even) < offOf(best)))
      best = even;
  }
  return best!;
}

const offOf = (pieces: readonly Piece[]): number =>
  pieces.reduce((off, p) => Math.max(off, p.curve?.off ?? 0), 0);

/** Shares of a piece by which a joint is moved to look whether both sides come nearer. */
const SHIFTS = [-0.3, 0.3, -0.12, 0.12, -0.04, 0.04];

/**
 * The same number of pieces with joints where the worse of both sides is nearest: each piece taken as far as it goes lies
 * at the tolerance, and leaves little to the last.
 *
 * @param way  direction at both ends of the line
 */
function* balanced(line: Line, pieces: readonly Piece[], way: Point | null): Work<Piece[]> {
  if (pieces.length < 2 || pieces.some((p) => !p.curve)) return [...pieces];
  const last = line.x.length - 1;
  const at = [0];
  for (const { from } of pieces.slice(1)) at.push(indexFrom(line, at[at.length - 1], from));
  at.push(last);
  const wayAt = (k: number): Point | null => (k === 0 || k === last ? way : tangentOf(line, k));
  const fit = (from: number, to: number): Cubic => fitCubic(line, from, to, wayAt(from), wayAt(to));
  const curves: Cubic[] = [];
  for (const k of pieces.keys()) {
    yield 0;
    curves.push(fit(at[k], at[k + 1]));
  }
  for (let j = 1; j < pieces.length; j++) {
    yield j / pieces.length;
    for (const shift of SHIFTS) {
      const reach = shift < 0 ? at[j] - at[j - 1] : at[j + 1] - at[j];
      const to = at[j] + Math.round(shift * reach);
      if (to <= at[j - 1] + 2 || to >= at[j + 1] - 2 || to === at[j]) continue;
      const [a, b] = [fit(at[j - 1], to), fit(to, at[j + 1])];
      if (Math.max(a.off, b.off) >= Math.max(curves[j - 1].off, curves[j].off)) continue;
      at[j] = to;
      [curves[j - 1], curves[j]] = [a, b];
    }
  }
  const place = (k: number): Point => [line.x[k], line.y[k]];
  return curves.map((curve, k) => ({ from: place(at[k]), to: place(at[k + 1]), curve }));
}

/** The number of the next point of a line after one that lies at a place, which is one of its points. */
function indexFrom({ x, y }: Line, after: number, [px, py]: Point): number {
  let k = after + 1;
  while (k < x.length - 1 && (x[k] !== px || y[k] !== py)) k++;
  return k;
}

/**
 * As few straight pieces and cubic curves as stay within the tolerance of an open line's points, each taken as far as it goes.
 *
 * @param start, end  directions to keep at the ends; null = free
 * @param smooth      whether a curve goes on the way a straight piece came: the line has no corners
 */
export function* fitOpen(
  line: Line,
  start: Point | null,
  end: Point | null,
  tolerance: number,
  smooth = false,
): Work<Piece[]> {
  const last = line.x.length - 1;
  const pieces: Piece[] = [];
  const place = (k: number): Point => [line.x[k], line.y[k]];
  for (let from = 0, way = start; from < last;) {
    yield from / last;
    const straight = farthest(from, last, (to) => chordOff(line, from, to) <= CHORD * tolerance);
    const curves = new Map<number, Cubic>();
    const isNear = (to: number): boolean => {
      const tangent = to === last ? end : tangentOf(line, to);
      const curve = fitCubic(line, from, to, way, tangent);
      if (curve.off <= tolerance) curves.set(to, curve);
      return curve.off <= tolerance;
    };
    const curved = straight === last ? from : farthest(from, last, isNear);
    const along = (to: number) => line.at[to] - line.at[from];
    if (straight === last || along(straight) >= STRAIGHT * along(curved)) {
      pieces.push({ from: place(from), to: place(straight), curve: null });
      way = smooth ? direction(place(from), place(straight)) : null;
      from = straight;
    } else {
      pieces.push({ from: place(from), to: place(curved), curve: curves.get(curved)! });
      way = tangentOf(line, curved);
      from = curved;
    }
  }
  return pieces;
}

/** The last point up to which something holds, found by going twice as far each time and then between. */
function farthest(from: number, last: number, holds: (to: number) => boolean): number {
  let good = from + 1;
  let step = FIRST;
  let bad = last + 1;
  while (good < last) {
    const to = Math.min(last, good + step);
    if (holds(to)) good = to;
    else {
      bad = to;
      break;
    }
    step *= 2;
  }
  while (bad - good > 1 && good < last) {
    const to = (good + bad) >> 1;
    if (holds(to)) good = to;
    else bad = to;
  }
  return good;
}

/** Greatest distance of the points between from the chord. */
function chordOff({ x, y }: Line, from: number, to: number): number {
  const [dx, dy] = direction([x[from], y[from]], [x[to], y[to]]);
  let off = 0;
  for (let k = from + 1; k < to; k++)
    off = Math.max(off, Math.abs(dx * (y[k] - y[from]) - dy * (x[k] - x[from])));
  return off;
}

/** Direction of a closed line at a place. */
const tangentAt = (line: Line, at: number): Point =>
  direction(placeAt(line, at - TANGENT), placeAt(line, at + TANGENT));

/** Direction of an open line at one of its points, as far as it reaches to either side. */
function tangentOf({ x, y, at, length }: Line, k: number): Point {
  const reach = Math.min(TANGENT, at[k], length - at[k]);
  let [a, b] = [k, k];
  while (a > 0 && at[k] - at[a] < reach) a--;
  while (b < x.length - 1 && at[b] - at[k] < reach) b++;
  return direction([x[a], y[a]], [x[b], y[b]]);
}

/** The stretch from one corner to the next: their places, and the line's points where the corners do not blur it. */
function side(loop: Line, from: Corner, to: Corner): Line {
  const points: number[] = [...from.place];
  const end = to.at > from.at ? to.at : to.at + loop.length;
  const count = loop.x.length - 1;
  const first = indexAt(loop, from.at) + 1;
  for (let k = first; ; k++) {
    const at = loop.at[k % count] + (k >= count ? loop.length : 0);
    if (at > end - ROUNDED || k - first > count) break;
    if (at > from.at + ROUNDED) points.push(loop.x[k % count], loop.y[k % count]);
  }
  points.push(...to.place);
  return lineOf(points, false);
}

/** The same closed line beginning at another of its points. */
function turned({ x, y }: Line, start: number): Line {
  const count = x.length - 1;
  const points = new Float64Array(2 * count + 2);
  for (let k = 0; k <= count; k++) {
    points[2 * k] = x[(start + k) % count];
    points[2 * k + 1] = y[(start + k) % count];
  }
  return lineOf(points, false);
}

/** The point of a closed line that comes first one way. */
function extreme(plane: Float64Array): number {
  let first = 0;
  for (let k = 1; k < plane.length - 1; k++) if (plane[k] < plane[first]) first = k;
  return first;
}

/** Knots of a closed outline made of pieces, each beginning where the one before ends. */
export function pieceKnots(pieces: readonly Piece[]): Knot[] {
  return pieces.map(({ from, curve }, k) => {
    const before = pieces[(k + pieces.length - 1) % pieces.length].curve;
    return { at: from, ...(before ? { in: before.in } : {}), ...(curve ? { out: curve.out } : {}) };
  });
}
