import { sinPi } from "../maths/steady";

/**
 * Shapes of a halftone dot: for a point of its cell, -1..1 both ways from the middle, how late it is marked. The first
 * axis runs along the screen's angle.
 * @see Ulichney, "Digital Halftoning", 1987, chapter 5, for spot functions
 */
export const DOT_SHAPES = {
  /** Stays a disc until neighbours touch. */
  round: (u, v) => u * u + v * v,
  /** Joins its neighbours along the angle at two fifths of black, and across it at three fifths. */
  ellipse: (u, v) => -0.435 * sinPi(u + 0.5) - 0.565 * sinPi(v + 0.5),
  square: (u, v) => Math.max(Math.abs(u), Math.abs(v)),
  /** Corners meet at half. */
  diamond: (u, v) => Math.abs(u) + Math.abs(v),
  /** Lines along the angle. */
  line: (_u, v) => Math.abs(v),
} as const satisfies Record<string, (u: number, v: number) => number>;

export type DotShape = keyof typeof DOT_SHAPES;
export const DOT_NAMES = Object.keys(DOT_SHAPES) as DotShape[];
