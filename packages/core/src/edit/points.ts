import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { fitCubic } from "../fit/cubic";
import { direction, lineOf, span, type Point } from "../fit/line";

/** Places looked at along each segment that is fitted anew. */
const SAMPLES = 24;

const plus = (p: Point, d: Point = [0, 0]): Point => [p[0] + d[0], p[1] + d[1]];
const less = (p: Point, q: Point): Point => [p[0] - q[0], p[1] - q[1]];
const times = (p: Point, by: number): Point => [p[0] * by, p[1] * by];

/** A knot with handles set; one that is none, or of no length, is left out. */
export const knotOf = (at: Point, back?: Point | null, out?: Point | null): Knot => ({
  at,
  ...(back && (back[0] !== 0 || back[1] !== 0) ? { in: back } : {}),
  ...(out && (out[0] !== 0 || out[1] !== 0) ? { out } : {}),
});

const replaced = (knots: readonly Knot[], changes: Readonly<Record<number, Knot>>): Knot[] =>
  knots.map((knot, k) => changes[k] ?? knot);

/** Number of the knot after one; the first again after the last of a closed path, -1 after that of an open one. */
export const after = ({ knots, closed }: KnotPath, k: number): number =>
  k + 1 < knots.length ? k + 1 : closed ? 0 : -1;
const before = ({ knots, closed }: KnotPath, k: number): number =>
  k > 0 ? k - 1 : closed ? knots.length - 1 : -1;

export const movedPoint = (path: KnotPath, k: number, to: Point): KnotPath => ({
  ...path,
  knots: replaced(path.knots, { [k]: { ...path.knots[k], at: to } }),
});

/** A handle moved; where the point was smooth the other turns with it. */
export function movedHandle(path: KnotPath, k: number, side: "in" | "out", to: Point): KnotPath {
  const knot = path.knots[k];
  const other = side === "in" ? knot.out : knot.in;
  const smooth = isSmooth(knot);
  const length = span(to[0], to[1]);
  const turned = other && smooth && length > 0 ? times(to, -span(other[0], other[1]) / length) : other;
  const [back, out] = side === "in" ? [to, turned] : [turned, to];
  return { ...path, knots: replaced(path.knots, { [k]: knotOf(knot.at, back, out) }) };
}

/** Sine of the angle up to which two handles are in one line. */
const IN_LINE = 0.06;

/** Whether a path runs through a point without a corner: its handles lie in one line. */
export function isSmooth({ in: back, out }: Knot): boolean {
  if (!back || !out) return false;
  const [a, b] = [direction([0, 0], back), direction([0, 0], out)];
  return Math.abs(a[0] * b[1] - a[1] * b[0]) < IN_LINE && a[0] * b[0] + a[1] * b[1] < 0;
}

/** A point put on a segment; the curve stays as it is. @see de Casteljau, as in Farin, "Curves and Surfaces", 1988 */
export function withPoint(path: KnotPath, segment: number, t: number): KnotPath {
  const next = after(path, segment);
  const [a, b] = [path.knots[segment], path.knots[next]];
  const mix = (p: Point, q: Point): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
  const straight = !a.out && !b.in;
  const [p1, p2] = [plus(a.at, a.out), plus(b.at, b.in)];
  const [q0, q1, q2] = [mix(a.at, p1), mix(p1, p2), mix(p2, b.at)];
  const [r0, r1] = [mix(q0, q1), mix(q1, q2)];
  const middle = straight ? mix(a.at, b.at) : mix(r0, r1);
  if (straight) return { ...path, knots: path.knots.toSpliced(segment + 1, 0, { at: middle }) };
  const knots = replaced(path.knots, {
    [segment]: knotOf(a.at, a.in, less(q0, a.at)),
    [next]: knotOf(b.at, less(q2, b.at), b.out),
  });
  return {
    ...path,
    knots: knots.toSpliced(segment + 1, 0, knotOf(middle, less(r0, middle), less(r1, middle))),
  };
}

/** A point taken out; the curve through its neighbours comes as near as one curve can. Null where too few would be left. */
export function withoutPoint(path: KnotPath, k: number): KnotPath | null {
  if (path.knots.length <= (path.closed ? 3 : 2)) return null;
  const [p, n] = [before(path, k), after(path, k)];
  if (p < 0 || n < 0) return { ...path, knots: path.knots.toSpliced(k, 1) };
  const [a, m, b] = [path.knots[p], path.knots[k], path.knots[n]];
  const straight = !a.out && !m.in && !m.out && !b.in;
  const [out, back] = straight ? [null, null] : fitted([...sampled(a, m), ...sampled(m, b).slice(1)], a, b);
  const knots = replaced(path.knots, { [p]: knotOf(a.at, a.in, out), [n]: knotOf(b.at, back, b.out) });
  return { ...path, knots: knots.toSpliced(k, 1) };
}

/** Places along a segment, its ends among them. */
export function sampled(a: Knot, b: Knot, parts = SAMPLES): Point[] {
  const [p1, p2] = [plus(a.at, a.out), plus(b.at, b.in)];
  return Array.from({ length: parts + 1 }, (_, s): Point => {
    const t = s / parts;
    const u = 1 - t;
    const of = (c: 0 | 1) =>
      u * u * u * a.at[c] + 3 * u * u * t * p1[c] + 3 * u * t * t * p2[c] + t * t * t * b.at[c];
    return [of(0), of(1)];
  });
}

/** Handles of the one curve that comes nearest to places, leaving and arriving as the path does there. */
function fitted(places: readonly Point[], a: Knot, b: Knot): readonly [Point, Point] {
  const start = a.out ? direction([0, 0], a.out) : direction(places[0], places[1]);
  const end = b.in
    ? direction(b.in, [0, 0])
    : direction(places[places.length - 2], places[places.length - 1]);
  const { out, in: back } = fitCubic(lineOf(places.flat(), false), 0, places.length - 1, start, end);
  return [out, back];
}

/** A third of the way to a neighbour is how far a handle reaches where nothing else is known. */
const THIRD = 1 / 3;

/** A point made a corner, its handles gone, or smooth, its handles along the way from one neighbour to the other. */
export function pointAs(path: KnotPath, k: number, as: "corner" | "smooth"): KnotPath {
  const knot = path.knots[k];
  const [p, n] = [before(path, k), after(path, k)];
  if (as === "corner" || p < 0 || n < 0)
    return { ...path, knots: replaced(path.knots, { [k]: { at: knot.at } }) };
  const [a, b] = [path.knots[p].at, path.knots[n].at];
  const way = direction(a, b);
  const reach = (q: Point) => THIRD * span(q[0] - knot.at[0], q[1] - knot.at[1]);
  return {
    ...path,
    knots: replaced(path.knots, { [k]: knotOf(knot.at, times(way, -reach(a)), times(way, reach(b))) }),
  };
}

/** A segment made a straight line, or a curve that can be bent. */
export function segmentAs(path: KnotPath, segment: number, as: "straight" | "curved"): KnotPath {
  const next = after(path, segment);
  const [a, b] = [path.knots[segment], path.knots[next]];
  const along = times(less(b.at, a.at), THIRD);
  const [out, back] = as === "straight" ? [null, null] : [a.out ?? along, b.in ?? times(along, -1)];
  return {
    ...path,
    knots: replaced(path.knots, { [segment]: knotOf(a.at, a.in, out), [next]: knotOf(b.at, back, b.out) }),
  };
}

/** A closed path opened at a point, or an open one parted there. */
export function split(path: KnotPath, k: number): KnotPath[] {
  const { knots, closed } = path;
  if (closed) {
    const turned = [...knots.slice(k), ...knots.slice(0, k)];
    const first = turned[0];
    return [
      {
        closed: false,
        knots: [knotOf(first.at, null, first.out), ...turned.slice(1), knotOf(first.at, first.in)],
      },
    ];
  }
  if (k === 0 || k === knots.length - 1) return [path];
  const knot = knots[k];
  return [
    { closed: false, knots: [...knots.slice(0, k), knotOf(knot.at, knot.in)] },
    { closed: false, knots: [knotOf(knot.at, null, knot.out), ...knots.slice(k + 1)] },
  ];
}
