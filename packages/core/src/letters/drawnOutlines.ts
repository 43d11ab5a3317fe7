import { type Point } from "../fit/line";
import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";

/** Places nearer than this are one. */
const SAME = 1e-6;
export const isSame = (a: Point, b: Point): boolean =>
  Math.abs(a[0] - b[0]) < SAME && Math.abs(a[1] - b[1]) < SAME;

/**
 * Outlines drawn by M, L, Q, C and Z.
 *
 * @param place  where a point of the drawing lies in the unit of the result
 */
export function outlinesDrawn(drawn: string, place: (u: number, v: number) => Point): KnotPath[] {
  const paths: KnotPath[] = [];
  let knots: { at: Point; in?: Point; out?: Point }[] = [];
  const put = (at: Point, handleOut?: Point, handleIn?: Point): void => {
    const last = knots.at(-1)!;
    if (handleOut && !isSame(handleOut, last.at))
      last.out = [handleOut[0] - last.at[0], handleOut[1] - last.at[1]];
    const back: Point | null =
      handleIn && !isSame(handleIn, at) ? [handleIn[0] - at[0], handleIn[1] - at[1]] : null;
    knots.push(back ? { at, in: back } : { at });
  };
  for (const [, command, rest] of drawn.matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
    const n = rest.split(/[ ,]+/).map(Number);
    const to = (k: number): Point => place(n[k], n[k + 1]);
    if (command === "M") knots = [{ at: to(0) }];
    else if (command === "L") put(to(0));
    else if (command === "Q") {
      // A parabola's two cubic handles lie two thirds of the way to its one.
      const [from, middle, end] = [knots.at(-1)!.at, to(0), to(2)];
      const third = (p: Point): Point => [
        p[0] + (2 / 3) * (middle[0] - p[0]),
        p[1] + (2 / 3) * (middle[1] - p[1]),
      ];
      put(end, third(from), third(end));
    } else if (command === "C") put(to(4), to(0), to(2));
    else if (knots.length > 1) paths.push({ knots: endedAtBeginning(knots), closed: true });
  }
  return paths.filter((path) => path.knots.length > 1);
}

/** The last point of an outline often is its first once more. */
function endedAtBeginning(knots: readonly Knot[]): Knot[] {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  if (!isSame(first.at, last.at)) return [...knots];
  return [{ ...first, ...(last.in ? { in: last.in } : {}) }, ...knots.slice(1, -1)];
}
