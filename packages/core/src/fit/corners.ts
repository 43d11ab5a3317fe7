import { sorted } from "../maths/sorted";
import { type Work } from "../maths/work";
import { direction, indexAt, placeAt, span, type Line, type Point } from "./line";

/** A corner of a closed line: how far along it lies, and where its two sides would meet. */
export interface Corner {
  readonly at: number;
  readonly place: Point;
}

/** Nearer to a corner than this, in pixels, the grey is a mixture of both sides. */
export const ROUNDED = 1.3;
/** So far from a point its two sides are looked at. */
export const REACH = 5;
/** Turns (twice the sine of half the angle) from which on a bend is a corner, at no and at full readiness. */
const [STERN, READY] = [1, 0.25];
/** Corners nearer to each other than this are one. */
const APART = 2.5;
/** Between two corners the turn falls to this share of the lesser one's, or below. */
const VALLEY = 0.6;
/** Sides meet no further from the line than this. */
export const MEETS = 2.5;
/** A point of every so many pixels is looked at. */
const STEP = 0.5;
/** Places that are looked at between two slices. */
const LOOKED_AT_ONCE = 1 << 13;

/**
 * Where a closed line turns at once, and not as a curve does: how much the sides before and after a point turn against
 * each other, less what their own bend would have turned over the same length.
 *
 * @param readiness  0..1
 */
export function* cornersOf(line: Line, readiness: number): Work<Corner[]> {
  const reach = Math.min(REACH, line.length / 8);
  if (reach <= ROUNDED + 1) return [];
  const chord = reach - ROUNDED;
  // A curve of radius r has a sagitta of chord² / 8r, and turns by (reach + ROUNDED) / r from one chord to the other.
  const turnOfBend = (8 * (reach + ROUNDED)) / (chord * chord);
  const least = STERN + (READY - STERN) * readiness;
  const excess = new Float64Array(Math.floor(line.length / STEP));
  const middle = (reach + ROUNDED) / 2;
  const walks = [-reach, -middle, -ROUNDED, ROUNDED, middle, reach].map((by) => new Walk(line, by));
  const [a, am, ab, ba, bm, b] = walks;
  for (let k = 0; k < excess.length; k++) {
    if (k % LOOKED_AT_ONCE === LOOKED_AT_ONCE - 1) yield k / excess.length;
    for (const walk of walks) walk.go(k * STEP);
    const [d, e] = [away(a, ab), away(ba, b)];
    const [bx, by] = [d > 0 ? (ab.x - a.x) / d : 0, d > 0 ? (ab.y - a.y) / d : 0];
    const [fx, fy] = [e > 0 ? (b.x - ba.x) / e : 0, e > 0 ? (b.y - ba.y) / e : 0];
    const turn = span(fx - bx, fy - by);
    if (turn < least) continue;
    const way = bx * fy - by * fx > 0 ? 1 : -1;
    // How far the middle of each stretch lies to the left of its chord, as the line runs.
    const before = -(bx * (am.y - a.y) - by * (am.x - a.x));
    const after = -(fx * (bm.y - ba.y) - fy * (bm.x - ba.x));
    const bend = (way * (before + after)) / 2;
    excess[k] = turn - turnOfBend * Math.max(0, bend);
  }
  const order: number[] = [];
  for (let k = 0; k < excess.length; k++) if (excess[k] >= least) order.push(k);
  yield* sorted(order, (a, b) => excess[b] - excess[a] || a - b);
  const chosen = new Uint8Array(excess.length);
  for (const [k, one] of order.entries()) {
    if (k % LOOKED_AT_ONCE === LOOKED_AT_ONCE - 1) yield 1;
    if (isApartFromAll(excess, chosen, one, reach)) chosen[one] = 1;
  }
  const corners: Corner[] = [];
  for (let k = 0; k < chosen.length; k++) {
    if (k % LOOKED_AT_ONCE === LOOKED_AT_ONCE - 1) yield 1;
    if (chosen[k] === 1) corners.push({ at: k * STEP, place: meeting(line, k * STEP, reach) });
  }
  return corners;
}

/** Corners of an open line, as far from its ends as a corner is looked at. */
export function* cornersWithin(line: Line, readiness: number): Work<Corner[]> {
  const corners = yield* cornersOf(line, readiness);
  return corners.filter(({ at }) => at > REACH && at < line.length - REACH);
}

/** Whether a place is a corner beside all that are chosen; those far off always are. */
function isApartFromAll(excess: Float64Array, chosen: Uint8Array, one: number, reach: number): boolean {
  const count = excess.length;
  const far = Math.min(Math.ceil((2 * reach) / STEP), count >> 1);
  for (let by = -far; by <= far; by++) {
    const other = (one + by + count) % count;
    if (chosen[other] === 1 && !isApart(excess, other, one, reach)) return false;
  }
  return true;
}

/** Two corners, and not one seen twice: between them the line turns less than at the lesser of them. */
function isApart(excess: Float64Array, a: number, b: number, reach: number): boolean {
  const count = excess.length;
  const off = Math.abs(a - b);
  const steps = Math.min(off, count - off);
  if (steps * STEP < APART) return false;
  if (steps * STEP >= 2 * reach) return true;
  const from = off <= count / 2 === a < b ? a : b;
  let least = Infinity;
  for (let k = 1; k < steps; k++) least = Math.min(least, excess[(from + k) % count]);
  return least < VALLEY * Math.min(excess[a], excess[b]);
}

/** A place that goes along a line, so far before or after where it is said to be; only forward. As `placeAt`, without a search. */
class Walk {
  x = 0;
  y = 0;
  private k = 0;

  constructor(
    private readonly line: Line,
    private readonly by: number,
  ) {}

  go(to: number): void {
    const { x, y, at, length } = this.line;
    const s = to + this.by;
    const along = length > 0 ? s - length * Math.floor(s / length) : 0;
    let k = this.k;
    if (at[k] > along || k === 0) k = indexAt(this.line, along);
    while (k + 2 < at.length && at[k + 1] <= along) k++;
    this.k = k;
    const step = at[k + 1] - at[k];
    const t = step > 0 ? (along - at[k]) / step : 0;
    this.x = x[k] + (x[k + 1] - x[k]) * t;
    this.y = y[k] + (y[k + 1] - y[k]) * t;
  }
}

const away = (a: Walk, b: Walk): number => span(b.x - a.x, b.y - a.y);

/** Where the sides of a corner meet when they go on as they are; the line's own place where they hardly cross. */
function meeting(line: Line, at: number, reach: number): Point {
  const own = placeAt(line, at);
  const [p, p2, q, q2] = [-reach, -ROUNDED, ROUNDED, reach].map((by) => placeAt(line, at + by));
  const [b, f] = [direction(p, p2), direction(q, q2)];
  const cross = b[0] * f[1] - b[1] * f[0];
  if (Math.abs(cross) < 0.15) return own;
  const t = ((q[0] - p[0]) * f[1] - (q[1] - p[1]) * f[0]) / cross;
  const place: Point = [p[0] + b[0] * t, p[1] + b[1] * t];
  return span(place[0] - own[0], place[1] - own[1]) <= MEETS ? place : own;
}
