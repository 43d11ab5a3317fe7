/** Where the light comes from, as a share of the radius to the left of the middle. */
const LIT = -0.35;

/**
 * Light on something upright and round, 1 where it is brightest: half of it comes from the front left, the rest from all
 * sides.
 * @param across  from its middle line, in radii
 * @see Lambert's law: light falls off with the cosine of its angle to the surface
 */
export function lightOfRound(across: number): number {
  const x = Math.max(-1, Math.min(1, across));
  const deep = Math.sqrt(Math.max(0, 1 - x * x));
  const cosine = Math.max(0, deep * Math.sqrt(1 - LIT * LIT) + x * LIT);
  return 0.52 + 0.48 * cosine;
}

/** A window's shine on it, 0..1 of white: a soft band where it is mirrored. */
export function shineOfRound(across: number): number {
  const off = (across + 0.58) / 0.09;
  return off * off >= 1 ? 0 : 0.16 * (1 - off * off) * (1 - off * off);
}
