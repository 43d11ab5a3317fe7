import { type Work } from "../maths/work";
import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { UNITS_PER_MM } from "./clip";
import { type Ring, type Rings } from "./rings";

type Point = readonly [number, number];

/** A corner of a ring that lies on a path: on which, on which of its segments, and at which parameter of it. */
interface Origin {
  readonly path: number;
  readonly segment: number;
  readonly t: number;
}

/** Closed paths as rings whose corners are known by where they come from, so that what is made of the rings has curves again. */
export interface Traceable {
  readonly rings: Ring[];
  readonly paths: readonly KnotPath[];
  readonly origins: ReadonlyMap<string, readonly Origin[]>;
}

/** Straight pieces stay so near to the curves, in mm: it only says where lines cross. */
const NEAR_MM = 0.004;
/** A curve is never fewer pieces than this, so that pieces tell which way it bends. */
const LEAST_PIECES = 2;
/** Corners between two slices. */
const AT_ONCE = 4096;

const keyOf = (x: number, y: number): string =>
  `${Math.round(x * UNITS_PER_MM)} ${Math.round(y * UNITS_PER_MM)}`;

/** @param paths  closed; open ones are left out */
export function traceable(paths: readonly KnotPath[]): Traceable {
  const origins = new Map<string, Origin[]>();
  const rings = paths.flatMap((path, p): Ring[] => {
    if (!path.closed) return [];
    const { knots } = path;
    const corners: number[] = [];
    knots.forEach((from, segment) => {
      const to = knots[(segment + 1) % knots.length];
      const pieces = piecesOf(from, to);
      for (let k = 0; k < pieces; k++) {
        const t = k / pieces;
        const [x, y] = k === 0 ? from.at : pointAt(from, to, t);
        corners.push(x, y);
        const key = keyOf(x, y);
        const origin = { path: p, segment, t };
        const known = origins.get(key);
        if (known) known.push(origin);
        else origins.set(key, [origin]);
      }
    });
    return [Float64Array.from(corners)];
  });
  return { rings, paths, origins };
}

/**
 * Rings that were cut out of paths by a boolean operation, as paths again: where a ring follows a path it has that path's own
 * curves, cut where lines cross (de Casteljau). Corners that come from nowhere are corners.
 */
export function* keptCurves(rings: Rings, { paths, origins }: Traceable): Work<KnotPath[]> {
  const made: KnotPath[] = [];
  let corners = 0;
  for (const [k, ring] of rings.entries()) {
    if ((corners += ring.length) > AT_ONCE) {
      corners = 0;
      yield k / rings.length;
    }
    const path = followed(ring, paths, origins);
    if (path.knots.length > 1) made.push(path);
  }
  return made;
}

/** A stretch of a ring: along a segment of a path between two parameters, or straight. */
interface Stretch {
  readonly from: Point;
  to: Point;
  readonly path: number;
  readonly segment: number;
  readonly begin: number;
  end: number;
}

function followed(ring: Ring, paths: readonly KnotPath[], origins: Traceable["origins"]): KnotPath {
  const count = ring.length / 2;
  const corner = (k: number): Point => [ring[2 * k], ring[2 * k + 1]];
  const known = Array.from({ length: count }, (_, k) => origins.get(keyOf(...corner(k))) ?? []);
  // A corner that is a knot of a path lies where the knot does, to the bit.
  const places = known.map(([own], k) => (own?.t === 0 ? paths[own.path].knots[own.segment].at : corner(k)));
  const at = (k: number): Point => places[k % count];
  const stretches: Stretch[] = [];
  for (let k = 0; k < count; k++) {
    const [from, to] = [at(k), at(k + 1)];
    const along = alongOf(known[k], known[(k + 1) % count], from, to, paths);
    const last = stretches.at(-1);
    if (along && last && last.path === along.path && last.segment === along.segment && goesOn(last, along)) {
      last.end = along.end;
      last.to = to;
    } else stretches.push({ from, to, ...(along ?? { path: -1, segment: -1, begin: 0, end: 1 }) });
  }
  // The ring may begin in the middle of a segment.
  const [first, last] = [stretches[0], stretches[stretches.length - 1]];
  if (
    stretches.length > 2 &&
    first.path >= 0 &&
    first.path === last.path &&
    first.segment === last.segment &&
    goesOn(last, first)
  ) {
    stretches[0] = { ...first, from: last.from, begin: last.begin };
    stretches.pop();
  }
  return { knots: knotsOf(stretches, paths), closed: true };
}

const SAME_T = 1e-9;
const goesOn = (a: { begin: number; end: number }, b: { begin: number; end: number }): boolean =>
  Math.abs(a.end - b.begin) < SAME_T && a.end > a.begin === b.end > b.begin;

/** The segment that a side of a ring lies along; null where it lies along none. */
function alongOf(
  a: readonly Origin[],
  b: readonly Origin[],
  from: Point,
  to: Point,
  paths: readonly KnotPath[],
) {
  for (const one of a)
    for (const other of b) {
      const both = onOneSegment(one, other, paths);
      if (both) return both;
    }
  // Where lines cross, the corner comes from nowhere: it lies on the piece next to the one that is known.
  for (const one of a)
    for (const way of [1, -1] as const) {
      const piece = pieceFrom(one, way, paths);
      const share = shareOn(piece.from, piece.to, to);
      if (share !== null)
        return { ...piece.of, begin: piece.begin, end: piece.begin + share * (piece.end - piece.begin) };
    }
  for (const other of b)
    for (const way of [1, -1] as const) {
      const piece = pieceFrom(other, way, paths);
      const share = shareOn(piece.from, piece.to, from);
      if (share !== null)
        return { ...piece.of, begin: piece.begin + share * (piece.end - piece.begin), end: piece.begin };
    }
  return null;
}

function onOneSegment(one: Origin, other: Origin, paths: readonly KnotPath[]) {
  if (one.path !== other.path) return null;
  const { path, segment } = one;
  if (segment === other.segment) return { path, segment, begin: one.t, end: other.t };
  const count = paths[path].knots.length;
  if (other.t === 0 && other.segment === (segment + 1) % count)
    return { path, segment, begin: one.t, end: 1 };
  if (one.t === 0 && segment === (other.segment + 1) % count)
    return { path, segment: other.segment, begin: 1, end: other.t };
  return null;
}

/** The straight piece that goes on, or back, from a corner of a path. */
function pieceFrom({ path, segment, t }: Origin, way: 1 | -1, paths: readonly KnotPath[]) {
  const { knots } = paths[path];
  const count = knots.length;
  const own = way < 0 && t === 0 ? (segment + count - 1) % count : segment;
  const [from, to] = [knots[own], knots[(own + 1) % count]];
  const step = 1 / piecesOf(from, to);
  const begin = way < 0 && t === 0 ? 1 : t;
  const end = begin + way * step;
  return {
    of: { path, segment: own },
    begin,
    end,
    from: pointAt(from, to, begin),
    to: pointAt(from, to, end),
  };
}

/** A place is on a line when it is no further off than this, in mm. */
const ON_MM = 0.0004;

/** How far along a piece a place lies, 0 to 1; null when it does not lie on it. */
function shareOn(from: Point, to: Point, place: Point): number | null {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const square = dx * dx + dy * dy;
  if (square === 0) return null;
  const [px, py] = [place[0] - from[0], place[1] - from[1]];
  const t = (px * dx + py * dy) / square;
  if (t <= 0 || t >= 1) return null;
  const [ox, oy] = [px - t * dx, py - t * dy];
  return ox * ox + oy * oy <= ON_MM * ON_MM ? t : null;
}

/** Knots of stretches that follow one another round. */
function knotsOf(stretches: readonly Stretch[], paths: readonly KnotPath[]): Knot[] {
  const curves = stretches.map(({ from, to, path, segment, begin, end }) => {
    if (path < 0) return null;
    const { knots } = paths[path];
    const [a, b] = [knots[segment], knots[(segment + 1) % knots.length]];
    if (!a.out && !b.in) return null;
    const part = partOf(a, b, begin, end);
    // Handles are kept; the ends are where lines cross.
    return {
      out: [part[1][0] - from[0], part[1][1] - from[1]] as Point,
      in: [part[2][0] - to[0], part[2][1] - to[1]] as Point,
    };
  });
  return stretches.map(({ from }, k) => {
    const [before, own] = [curves[(k + curves.length - 1) % curves.length], curves[k]];
    return { at: from, ...(before ? { in: before.in } : {}), ...(own ? { out: own.out } : {}) };
  });
}

function controls(a: Knot, b: Knot): readonly [Point, Point, Point, Point] {
  const plus = (p: Point, d: Point = [0, 0]): Point => [p[0] + d[0], p[1] + d[1]];
  return [a.at, plus(a.at, a.out), plus(b.at, b.in), b.at];
}

const between = (p: Point, q: Point, t: number): Point => [
  p[0] + t * (q[0] - p[0]),
  p[1] + t * (q[1] - p[1]),
];

/** The part of a cubic from one parameter to another; backwards where the second is less. */
function partOf(a: Knot, b: Knot, begin: number, end: number): readonly [Point, Point, Point, Point] {
  const [low, high] = begin < end ? [begin, end] : [end, begin];
  const upTo = splitAt(controls(a, b), high)[0];
  const part = low === 0 ? upTo : splitAt(upTo, low / high)[1];
  return begin < end ? part : [part[3], part[2], part[1], part[0]];
}

type Cubic = readonly [Point, Point, Point, Point];

/** @see de Casteljau, "Outillages méthodes calcul", 1959 */
function splitAt([p, q, r, s]: Cubic, t: number): readonly [Cubic, Cubic] {
  const [pq, qr, rs] = [between(p, q, t), between(q, r, t), between(r, s, t)];
  const [a, b] = [between(pq, qr, t), between(qr, rs, t)];
  const middle = between(a, b, t);
  return [
    [p, pq, a, middle],
    [middle, b, rs, s],
  ];
}

function piecesOf(a: Knot, b: Knot): number {
  if (!a.out && !b.in) return 1;
  const [p, q, r, s] = controls(a, b);
  const bend = (x: Point, y: Point, z: Point): number => {
    const [dx, dy] = [x[0] - 2 * y[0] + z[0], x[1] - 2 * y[1] + z[1]];
    return Math.sqrt(dx * dx + dy * dy);
  };
  return Math.max(
    LEAST_PIECES,
    Math.ceil(Math.sqrt((0.75 * Math.max(bend(p, q, r), bend(q, r, s))) / NEAR_MM)),
  );
}

function pointAt(a: Knot, b: Knot, t: number): Point {
  if (t === 0) return a.at;
  if (t === 1) return b.at;
  if (!a.out && !b.in) return between(a.at, b.at, t);
  return splitAt(controls(a, b), t)[0][3];
}
