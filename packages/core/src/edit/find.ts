import { flattened } from "../path/flatten";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { ringArea, ringBox, type Ring } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { span, type Point } from "../fit/line";

/** Curves are looked at as straight pieces this near to them, in mm. */
const FLAT_MM = 0.02;
const LOOK = { name: "", use: "through", colour: 0 } as const;

/** A path as straight pieces, with the number of the segment that each ends. */
interface Flat {
  readonly points: Float64Array;
  readonly segment: Int32Array;
  readonly box: readonly [number, number, number, number];
}

const known = new WeakMap<KnotPath, Flat>();

/** Straight pieces of a path, segment by segment. */
export function flat(path: KnotPath): Flat {
  const found = known.get(path);
  if (found) return found;
  const { knots, closed } = path;
  const points: number[] = [...knots[0].at];
  const segment: number[] = [-1];
  const count = closed ? knots.length : knots.length - 1;
  for (let k = 0; k < count; k++) {
    const [a, b] = [knots[k], knots[(k + 1) % knots.length]];
    const [line] = flattened(pathSetOf(LOOK, [{ knots: [a, b], closed: false }]), FLAT_MM);
    for (let i = 2; i < line.points.length; i += 2) {
      points.push(line.points[i], line.points[i + 1]);
      segment.push(k);
    }
  }
  const { x, y, width, height } = ringBox(Float64Array.from(points));
  const made = {
    points: Float64Array.from(points),
    segment: Int32Array.from(segment),
    box: [x, y, x + width, y + height] as const,
  };
  known.set(path, made);
  return made;
}

/** A place on a path: which segment, how far along it, and how far off the place looked for. */
export interface OnPath {
  readonly path: number;
  readonly segment: number;
  /** 0..1 of the segment, by its straight pieces. */
  readonly share: number;
  readonly at: Point;
  readonly offMm: number;
}

/** The place of any path nearest to one, no further off than a reach; null when there is none. */
export function nearestOnPaths(paths: readonly KnotPath[], [x, y]: Point, reachMm: number): OnPath | null {
  let best: OnPath | null = null;
  let least = reachMm;
  paths.forEach((path, p) => {
    const { points, segment, box } = flat(path);
    if (x < box[0] - least || y < box[1] - least || x > box[2] + least || y > box[3] + least) return;
    for (let k = 1; k < segment.length; k++) {
      const [ax, ay] = [points[2 * k - 2], points[2 * k - 1]];
      const [dx, dy] = [points[2 * k] - ax, points[2 * k + 1] - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      const at: Point = [ax + t * dx, ay + t * dy];
      const off = span(at[0] - x, at[1] - y);
      if (off > least) continue;
      least = off;
      const first = segment.indexOf(segment[k]);
      const pieces = segment.lastIndexOf(segment[k]) - first + 1;
      best = { path: p, segment: segment[k], share: (k - first + t) / pieces, at, offMm: off };
    }
  });
  return best;
}

/** A point of a path. */
export interface AtKnot {
  readonly path: number;
  readonly knot: number;
}

/** The point of any path nearest to a place, no further off than a reach; null when there is none. */
export function nearestKnot(paths: readonly KnotPath[], [x, y]: Point, reachMm: number): AtKnot | null {
  let best: AtKnot | null = null;
  let least = reachMm;
  paths.forEach(({ knots }, path) =>
    knots.forEach(({ at }, knot) => {
      const off = span(at[0] - x, at[1] - y);
      if (off > least || (off === least && best)) return;
      least = off;
      best = { path, knot };
    }),
  );
  return best;
}

/** Whether a closed path goes round a place. */
export function isRound(path: KnotPath, [x, y]: Point): boolean {
  if (!path.closed) return false;
  const { points, box } = flat(path);
  if (x < box[0] || y < box[1] || x > box[2] || y > box[3]) return false;
  let inside = false;
  for (let k = 2; k < points.length; k += 2) {
    const [ax, ay, bx, by] = [points[k - 2], points[k - 1], points[k], points[k + 1]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/**
 * The shape that a path bounds, by the numbers of its outlines: the path itself, then, where it bounds something filled, the
 * holes in it. What lies in a hole is a shape of its own.
 *
 * @param isWith  the paths that are filled together with it
 */
export function shapeOf(
  paths: readonly KnotPath[],
  found: number,
  isWith: (path: number) => boolean,
): readonly number[] {
  const own = paths[found];
  const others = paths.flatMap((_, k) => (k !== found && isWith(k) ? [k] : []));
  const round = others.filter((k) => isRound(paths[k], own.knots[0].at));
  if (!own.closed || round.length % 2 === 1) return [found];
  // What reaches beyond it lies over it, and is no hole of it.
  const within = others.filter((k) => somePoints(paths[k]).every((place) => isRound(own, place)));
  const isHole = (hole: number) =>
    within.every((k) => k === hole || !isRound(paths[k], paths[hole].knots[0].at));
  return [found, ...within.filter(isHole)];
}

/** A few of a path's points, spread over it: all of them would take long where thousands of holes lie in one outline. */
const somePoints = ({ knots }: KnotPath): readonly Point[] =>
  [0, 0.25, 0.5, 0.75].map((share) => knots[Math.floor(share * knots.length)].at);

/** The smallest closed path that goes round a place: an outline where it is filled, a hole where it is not; null for none. */
export function pathRound(paths: readonly KnotPath[], place: Point): number | null {
  let [best, least] = [null as number | null, Infinity];
  paths.forEach((path, k) => {
    if (!isRound(path, place)) return;
    const area = areaOfPath(path);
    if (area < least) [best, least] = [k, area];
  });
  return best;
}

/** Area that a closed path goes round, in mm2; as good as none of an open one. */
export const areaOfPath = (path: KnotPath): number => Math.abs(ringArea(flat(path).points));

/** The box of a path's line, in mm. */
export function ringBoxOfPath(path: KnotPath): Rect {
  const [left, top, right, bottom] = flat(path).box;
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** A closed path as a ring of straight pieces, without its first point again at the end. */
export const ringOf = (path: KnotPath): Ring => {
  const { points } = flat(path);
  return points.subarray(0, points.length - 2);
};
