import { cosPi, sinPi } from "../maths/steady";
import { type Knot } from "./outline";
import { type KnotPath } from "./pathSet";

/** x' = a x + c y + e, y' = b x + d y + f: as SVG writes a matrix. */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

type Point = readonly [number, number];

/** First the one on the right, then the other. */
export const after = (m: Affine, n: Affine): Affine => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

/** Clockwise on the screen, about a place; y runs downwards. Quarters are exact. */
export function turnAbout(degrees: number, [x, y]: Point): Affine {
  const [s, c] = quarterTurn(degrees) ?? [sinPi(degrees / 180), cosPi(degrees / 180)];
  return [c, s, -s, c, x - c * x + s * y, y - s * x - c * y];
}

/** Sine and cosine of whole quarters, to the bit. */
function quarterTurn(degrees: number): readonly [number, number] | null {
  if (degrees % 90 !== 0) return null;
  const quarter = (((degrees / 90) % 4) + 4) % 4;
  return [[0, 1, 0, -1][quarter], [1, 0, -1, 0][quarter]];
}

/** Larger or smaller across and down, about a place that stays; negative mirrors. */
export const scaleAbout = (across: number, down: number, [x, y]: Point): Affine => [
  across,
  0,
  0,
  down,
  x - across * x,
  y - down * y,
];

export const shift = (x: number, y: number): Affine => [1, 0, 0, 1, x, y];

export const movedPointBy = (m: Affine, [x, y]: Point): Point => [
  m[0] * x + m[2] * y + m[4],
  m[1] * x + m[3] * y + m[5],
];

/** A path with everything of it moved, turned, mirrored or scaled. */
export const affinePath = ({ knots, closed }: KnotPath, m: Affine): KnotPath => {
  const by = ([x, y]: Point): Point => [m[0] * x + m[2] * y, m[1] * x + m[3] * y];
  return {
    closed,
    knots: knots.map(({ at, in: back, out }): Knot => ({
      at: movedPointBy(m, at),
      ...(back ? { in: by(back) } : {}),
      ...(out ? { out: by(out) } : {}),
    })),
  };
};
