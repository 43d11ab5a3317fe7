import { runToEnd, type Work } from "../maths/work";
import { type Rect } from "../raster/types";
import { type Knot } from "./outline";

/**
 * What is done with a path: cut through everything, cut through the top layer only, run lightly, filled; or it bounds what is
 * printed, and no machine follows it.
 */
export type PathUse = "through" | "kiss" | "score" | "fill" | "print";

/** Shapes that are run together with one power and speed, and can be run again alone. */
export interface Pass {
  readonly name: string;
  /** In percent of the machine's. */
  readonly power: number;
  /** In mm a second. */
  readonly speed: number;
}

/**
 * Paths that are run together, in millimetres from the finished piece's top left, x to the right, y down. Every path
 * is its first point and then, for each cubic segment, two handles and the end; on a straight segment the handles
 * lie on the ends. Packed, so that it crosses to another thread as it is.
 */
export interface PathSet {
  readonly name: string;
  readonly use: PathUse;
  /** As drawn on a screen, 0xrrggbb. */
  readonly colour: number;
  /** Of what is printed: the colour under the art, 0xrrggbb; the art is seen within it alone. */
  readonly ground?: number;
  /** How a machine is to run it. */
  readonly pass?: Pass;
  /** How far a closed path goes on past its beginning, in mm, so that a blade that lags behind closes it. */
  readonly overcutMm?: number;
  /** Of lines along the middle of strokes: how wide each stroke is. */
  readonly widthsMm?: Float64Array;
  /** x, y of every point, path after path. */
  readonly points: Float64Array;
  /** Index of each path's first point, and the number of all points at the end. */
  readonly starts: Uint32Array;
  /** 1 where a path ends where it began. */
  readonly closed: Uint8Array;
}

export interface KnotPath {
  readonly knots: readonly Knot[];
  readonly closed: boolean;
}

/** What a set is besides its paths. */
type Look = Pick<PathSet, "name" | "use" | "colour" | "pass" | "overcutMm">;
/** Knots that are packed between two slices. */
const PACKED_AT_ONCE = 1 << 14;

/** Packs paths given by their knots, in millimetres. A path of a single knot is left out. */
export const pathSetOf = (look: Look, paths: readonly KnotPath[]): PathSet => runToEnd(packed(look, paths));

/** The same of many paths, in slices; everything made larger or smaller on the way. */
export function* packed(look: Look, paths: readonly KnotPath[], scale = 1): Work<PathSet> {
  const given = paths.filter((p) => p.knots.length > 1);
  const starts = new Uint32Array(given.length + 1);
  given.forEach(({ knots, closed }, k) => {
    starts[k + 1] = starts[k] + 1 + 3 * (closed ? knots.length : knots.length - 1);
  });
  const points = new Float64Array(2 * starts[given.length]);
  let p = 0;
  const put = ([x, y]: readonly [number, number], by?: readonly [number, number]): void => {
    points[p++] = by ? x * scale + by[0] * scale : x * scale;
    points[p++] = by ? y * scale + by[1] * scale : y * scale;
  };
  let since = 0;
  for (const { knots, closed } of given) {
    if ((since += knots.length) > PACKED_AT_ONCE) {
      since = 0;
      yield p / points.length;
    }
    put(knots[0].at);
    const segments = closed ? knots.length : knots.length - 1;
    for (let k = 0; k < segments; k++) {
      const [a, b] = [knots[k], knots[(k + 1) % knots.length]];
      put(a.at, a.out);
      put(b.at, b.in);
      put(b.at);
    }
  }
  return { ...look, points, starts, closed: Uint8Array.from(given, (path) => +path.closed) };
}

/** A set of closed lines of straight pieces. @param rings  x, y of every corner, in mm; the last joins the first again */
export function straightSet(look: Look, rings: readonly Float64Array[]): PathSet {
  const given = rings.filter((ring) => ring.length > 2);
  const starts = new Uint32Array(given.length + 1);
  given.forEach((ring, k) => (starts[k + 1] = starts[k] + 1 + (3 * ring.length) / 2));
  const points = new Float64Array(2 * starts[given.length]);
  for (const [k, ring] of given.entries()) {
    let o = 2 * starts[k];
    points[o++] = ring[0];
    points[o++] = ring[1];
    for (let from = 0; from < ring.length; from += 2) {
      const to = from + 2 === ring.length ? 0 : from + 2;
      // Handles lie at the ends.
      for (const at of [from, to, to]) {
        points[o++] = ring[at];
        points[o++] = ring[at + 1];
      }
    }
  }
  return { ...look, points, starts, closed: new Uint8Array(given.length).fill(1) };
}

/** Number of paths in a set. */
export const countPaths = (set: PathSet): number => set.closed.length;

/** The box that holds a piece of a size and whatever of its paths reaches beyond it, in mm. */
export function boxWith(sets: readonly PathSet[], widthMm: number, heightMm: number): Rect {
  const boxes = sets.map(boxOf).filter((b) => b !== null);
  const [x, y] = [Math.min(0, ...boxes.map((b) => b.x)), Math.min(0, ...boxes.map((b) => b.y))];
  return {
    ...{ x, y },
    width: Math.max(widthMm, ...boxes.map((b) => b.x + b.width)) - x,
    height: Math.max(heightMm, ...boxes.map((b) => b.y + b.height)) - y,
  };
}

/** Box of a set's points and handles, in mm; null when it is empty. A curve never leaves the box of its handles. */
export function boxOf({ points }: PathSet): Rect | null {
  if (points.length === 0) return null;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 2) {
    left = Math.min(left, points[i]);
    right = Math.max(right, points[i]);
    top = Math.min(top, points[i + 1]);
    bottom = Math.max(bottom, points[i + 1]);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The paths of a set by their knots: `pathSetOf` turned round. */
export function knotPathsOf({ points, starts, closed }: PathSet): KnotPath[] {
  const place = (p: number): readonly [number, number] => [points[2 * p], points[2 * p + 1]];
  const handle = (p: number, from: number): readonly [number, number] | null => {
    const [dx, dy] = [points[2 * p] - points[2 * from], points[2 * p + 1] - points[2 * from + 1]];
    return dx === 0 && dy === 0 ? null : [dx, dy];
  };
  return Array.from(closed, (isClosed, k) => {
    const [first, last] = [starts[k], starts[k + 1] - 1];
    const count = (last - first) / 3 + (isClosed ? 0 : 1);
    const knots = Array.from({ length: count }, (_, j): Knot => {
      const p = first + 3 * j;
      const [before, after] = [p > first ? p : isClosed ? last : -1, p < last ? p : -1];
      const back = before < 0 ? null : handle(before - 1, before);
      const out = after < 0 ? null : handle(p + 1, p);
      return { at: place(p), ...(back ? { in: back } : {}), ...(out ? { out } : {}) };
    });
    return { knots, closed: isClosed === 1 };
  });
}

/** The same path run the other way. */
export const reversedPath = ({ knots, closed }: KnotPath): KnotPath => ({
  closed,
  knots: knots.toReversed().map(({ at, in: before, out }) => ({
    at,
    ...(out ? { in: out } : {}),
    ...(before ? { out: before } : {}),
  })),
});
