import { type Knot } from "../../path/outline";
import { span, type Point } from "../line";

/** What runs from one knot to the next: a straight piece or a cubic curve, by its four points. */
export interface Piece {
  readonly curved: boolean;
  /** x, y of beginning, first handle, second handle, end. */
  readonly points: Float64Array;
  /** Length of the way over the handles, which is no shorter than the piece. */
  readonly length: number;
}

export function pieceOf(a: Knot, b: Knot): Piece {
  const [[ax, ay], [bx, by]] = [a.at, b.at];
  const curved = a.out !== undefined || b.in !== undefined;
  const [ox, oy] = a.out ?? [0, 0];
  const [ix, iy] = b.in ?? [0, 0];
  const p = Float64Array.of(ax, ay, ax + ox, ay + oy, bx + ix, by + iy, bx, by);
  const length = curved
    ? span(p[2] - p[0], p[3] - p[1]) + span(p[4] - p[2], p[5] - p[3]) + span(p[6] - p[4], p[7] - p[5])
    : span(bx - ax, by - ay);
  return { curved, points: p, length };
}

/** By how much each of a piece's four points counts at t, 0..1. */
function weightsAt({ curved }: Piece, t: number, into: Float64Array): void {
  const u = 1 - t;
  into[0] = curved ? u * u * u : u;
  into[1] = curved ? 3 * u * u * t : 0;
  into[2] = curved ? 3 * u * t * t : 0;
  into[3] = curved ? t * t * t : t;
}

const w = new Float64Array(4);

export function placeOn(piece: Piece, t: number): Point {
  weightsAt(piece, t, w);
  const { points: p } = piece;
  return [
    w[0] * p[0] + w[1] * p[2] + w[2] * p[4] + w[3] * p[6],
    w[0] * p[1] + w[1] * p[3] + w[2] * p[5] + w[3] * p[7],
  ];
}

/** Places on a piece no further apart than asked, x and y after each other, its two ends among them. */
export function placesOn(piece: Piece, apart: number): Float64Array {
  const count = Math.max(1, Math.ceil(piece.length / apart));
  const places = new Float64Array(2 * count + 2);
  for (let k = 0; k <= count; k++) places.set(placeOn(piece, k / count), 2 * k);
  return places;
}

/** The same way as two pieces, the knot between them at t: by de Casteljau's construction. */
export function partedAt(a: Knot, b: Knot, t: number): readonly [Knot, Knot, Knot] {
  const piece = pieceOf(a, b);
  if (!piece.curved) return [a, { at: placeOn(piece, t) }, b];
  const p = piece.points;
  const between = (from: Point, to: Point): Point => [
    from[0] + (to[0] - from[0]) * t,
    from[1] + (to[1] - from[1]) * t,
  ];
  const [p0, p1, p2, p3]: Point[] = [0, 2, 4, 6].map((k) => [p[k], p[k + 1]]);
  const [q0, q1, q2] = [between(p0, p1), between(p1, p2), between(p2, p3)];
  const [r0, r1] = [between(q0, q1), between(q1, q2)];
  const at = between(r0, r1);
  return [
    { ...a, out: less(q0, p0) },
    { at, in: less(r0, at), out: less(r1, at) },
    { ...b, in: less(q2, p3) },
  ];
}

/** What the ends of one piece become when the knot between two is left out. */
export function joinedOver(a: Knot, knot: Knot, b: Knot): readonly [Knot, Knot] {
  const [before, after] = [pieceOf(a, knot), pieceOf(knot, b)];
  if (!before.curved && !after.curved) return [a, b];
  const whole = before.length + after.length;
  const longer = (handle: Point | undefined, from: Point, length: number): Point => {
    const [x, y] = handle ?? [(knot.at[0] - from[0]) / 3, (knot.at[1] - from[1]) / 3];
    const by = whole / Math.max(length, 0.05 * whole, 1e-9);
    return [x * by, y * by];
  };
  return [
    { ...a, out: longer(a.out, a.at, before.length) },
    { ...b, in: longer(b.in, b.at, after.length) },
  ];
}

const less = (p: Point, q: Point): Point => [p[0] - q[0], p[1] - q[1]];

/** The way along which a knot is come to from the one before, backwards, and left for the next. */
export function waysAt(before: Knot, knot: Knot, next: Knot): readonly [Point, Point] {
  const way = (handle: Point | undefined, to: Knot): Point =>
    handle && span(...handle) > 1e-6 ? handle : less(to.at, knot.at);
  return [way(knot.in, before), way(knot.out, next)];
}

/** Cosine of the angle by which the way turns at a knot: 1 straight on, -1 straight back. */
export function cosineAt(before: Knot, knot: Knot, next: Knot): number {
  const [back, on] = waysAt(before, knot, next);
  const under = span(...back) * span(...on);
  return under > 0 ? -(back[0] * on[0] + back[1] * on[1]) / under : 1;
}
