import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { CAPITAL, OUTLINES } from "./outlines";

/** Text as outlines, and how long the line is. */
export interface SetLine {
  readonly paths: readonly KnotPath[];
  readonly width: number;
}

/** Stands for a letter that the font has not. */
const MISSING = "?".codePointAt(0)!;

/**
 * A line of text in the shipped font, as closed outlines; counters run the other way round.
 *
 * @param height  of a capital, in the unit of the result
 * @param x, y    where the line begins, at its foot; y downwards
 */
export function setText(text: string, height: number, x = 0, y = 0): SetLine {
  const scale = height / CAPITAL;
  const paths: KnotPath[] = [];
  let at = 0;
  for (const letter of text) {
    const [advance, drawn] = OUTLINES[letter.codePointAt(0)!] ?? OUTLINES[MISSING];
    const place = (u: number, v: number): readonly [number, number] => [x + (at + u) * scale, y - v * scale];
    paths.push(...outlinesOf(drawn, place));
    at += advance;
  }
  return { paths, width: at * scale };
}

type Point = readonly [number, number];

/** Outlines drawn by M, L, Q, C and Z. */
function outlinesOf(drawn: string, place: (u: number, v: number) => Point): KnotPath[] {
  const paths: KnotPath[] = [];
  let knots: { at: Point; in?: Point; out?: Point }[] = [];
  const put = (at: Point, handleOut?: Point, handleIn?: Point): void => {
    const last = knots.at(-1)!;
    if (handleOut) last.out = [handleOut[0] - last.at[0], handleOut[1] - last.at[1]];
    knots.push(handleIn ? { at, in: [handleIn[0] - at[0], handleIn[1] - at[1]] } : { at });
  };
  for (const [, command, rest] of drawn.matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
    const n = rest.split(" ").map(Number);
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
    else if (knots.length > 1) paths.push({ knots: closedUp(knots), closed: true });
  }
  return paths;
}

/** The last point of an outline often is its first once more. */
function closedUp(knots: readonly Knot[]): Knot[] {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  const same = Math.abs(first.at[0] - last.at[0]) < 1e-9 && Math.abs(first.at[1] - last.at[1]) < 1e-9;
  if (!same) return [...knots];
  return [{ ...first, ...(last.in ? { in: last.in } : {}) }, ...knots.slice(1, -1)];
}
