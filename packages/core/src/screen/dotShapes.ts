/**
 * Shapes of a halftone dot: for a point of its cell, -1..1 both ways from the middle, how late it is marked. The first
 * axis runs along the screen's angle.
 * @see Ulichney, "Digital Halftoning", 1987, chapter 5, for spot functions
 */
export const DOT_SHAPES = {
  /** Stays a disc until neighbours touch. */
  round: (u, v) => u * u + v * v,
  /** Touches its neighbours along the angle first, across it later: the step in tone where dots join is halved. */
  ellipse: (u, v) => 0.6 * u * u + v * v,
  square: (u, v) => Math.max(Math.abs(u), Math.abs(v)),
  /** Corners meet at half. */
  diamond: (u, v) => Math.abs(u) + Math.abs(v),
  /** Lines along the angle. */
  line: (_u, v) => Math.abs(v),
} as const satisfies Record<string, (u: number, v: number) => number>;

export type DotShape = keyof typeof DOT_SHAPES;
export const DOT_NAMES = Object.keys(DOT_SHAPES) as DotShape[];
