import { type Knot } from "./outline";

/** What is done with a path: cut through everything, cut through the top layer only, run lightly, or filled. */
export type PathUse = "through" | "kiss" | "score" | "fill";

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

/** Packs paths given by their knots, in millimetres. A path of a single knot is left out. */
export function pathSetOf(
  { name, use, colour }: Pick<PathSet, "name" | "use" | "colour">,
  paths: readonly KnotPath[],
): PathSet {
  const given = paths.filter((p) => p.knots.length > 1);
  const points: number[] = [];
  const starts = [0];
  for (const { knots, closed } of given) {
    points.push(...knots[0].at);
    const segments = closed ? knots.length : knots.length - 1;
    for (let k = 0; k < segments; k++) {
      const [a, b] = [knots[k], knots[(k + 1) % knots.length]];
      const handle = (of: Knot, by: readonly [number, number] = [0, 0]) => [
        of.at[0] + by[0],
        of.at[1] + by[1],
      ];
      points.push(...handle(a, a.out), ...handle(b, b.in), ...b.at);
    }
    starts.push(points.length / 2);
  }
  return {
    name,
    use,
    colour,
    points: Float64Array.from(points),
    starts: Uint32Array.from(starts),
    closed: Uint8Array.from(given, (p) => +p.closed),
  };
}

/** Number of paths in a set. */
export const countPaths = (set: PathSet): number => set.closed.length;

/** Box of a set's points and handles, in mm; null when it is empty. A curve never leaves the box of its handles. */
export function boxOf({ points }: PathSet): { x: number; y: number; width: number; height: number } | null {
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
