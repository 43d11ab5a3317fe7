import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { type Point } from "./surface";

/** A half given from top to bottom on the right of x = 0, and its mirror image: one closed outline. */
export function mirrored(half: readonly Knot[]): KnotPath {
  const other = half.toReversed().map(({ at: [x, y], in: before, out }): Knot => ({
    at: [-x, y],
    ...(out ? { in: [-out[0], out[1]] as const } : {}),
    ...(before ? { out: [-before[0], before[1]] as const } : {}),
  }));
  // What lies on the middle line is there once.
  const [first, last] = [other[0], other[other.length - 1]];
  const knots = [...half];
  if (first.at[0] === 0)
    knots[knots.length - 1] = { ...half[half.length - 1], ...(first.out ? { out: first.out } : {}) };
  if (last.at[0] === 0) knots[0] = { ...half[0], ...(last.in ? { in: last.in } : {}) };
  const rest = other.slice(first.at[0] === 0 ? 1 : 0, last.at[0] === 0 ? -1 : undefined);
  return { knots: [...knots, ...rest], closed: true };
}

/** A path moved, and mirrored left to right first where it is wished. */
export function movedPath({ knots, closed }: KnotPath, [dx, dy]: Point, flip = false): KnotPath {
  const by = flip ? -1 : 1;
  const turned = (v: Point | undefined) => v && ([by * v[0], v[1]] as const);
  return {
    closed,
    knots: knots.map((k) => ({
      at: [by * k.at[0] + dx, k.at[1] + dy] as const,
      ...(k.in ? { in: turned(k.in)! } : {}),
      ...(k.out ? { out: turned(k.out)! } : {}),
    })),
  };
}

export const openPath = (...points: readonly Point[]): KnotPath => ({
  knots: points.map((at) => ({ at })),
  closed: false,
});

/** A curve from one place to another that bends towards a third. */
export const bend = (from: Point, towards: Point, to: Point): KnotPath => ({
  closed: false,
  knots: [
    { at: from, out: [(2 / 3) * (towards[0] - from[0]), (2 / 3) * (towards[1] - from[1])] },
    { at: to, in: [(2 / 3) * (towards[0] - to[0]), (2 / 3) * (towards[1] - to[1])] },
  ],
});

/** The band of a width along a line, as one closed ring. @param points  x, y of its corners */
export function ribbon(points: ArrayLike<number>, width: number): Float64Array {
  const count = points.length / 2;
  const ring = new Float64Array(4 * count);
  for (let k = 0; k < count; k++) {
    const [before, after] = [Math.max(0, k - 1), Math.min(count - 1, k + 1)];
    const [dx, dy] = [points[2 * after] - points[2 * before], points[2 * after + 1] - points[2 * before + 1]];
    const long = Math.sqrt(dx * dx + dy * dy) || 1;
    const [nx, ny] = [(-dy / long) * (width / 2), (dx / long) * (width / 2)];
    ring[2 * k] = points[2 * k] + nx;
    ring[2 * k + 1] = points[2 * k + 1] + ny;
    const o = 4 * count - 2 * k - 2;
    ring[o] = points[2 * k] - nx;
    ring[o + 1] = points[2 * k + 1] - ny;
  }
  return ring;
}

/** As `mirrored`, about a line that is so far to the right. */
export const mirroredAt = (x: number, half: readonly Knot[]): KnotPath => movedPath(mirrored(half), [x, 0]);

/** A closed outline as the line that runs along it. */
export const closedLine = (knots: readonly Knot[]): KnotPath => ({
  closed: false,
  knots: [...knots, knots[0]],
});
