import {
  booleanOp,
  ClipType,
  FillRule,
  ramerDouglasPeuckerPaths,
  type Path64,
  type Paths64,
} from "clipper2-ts";
import { type Ring, type Rings } from "./rings";

/** Polygons are worked on in whole tenths of a micrometre: exact, and no coarser than what files say. */
export const UNITS_PER_MM = 1e4;

export const toUnits = (rings: Rings): Paths64 =>
  rings.map((ring) => {
    const path: Path64 = [];
    for (let k = 0; k < ring.length; k += 2)
      path.push({ x: Math.round(ring[k] * UNITS_PER_MM), y: Math.round(ring[k + 1] * UNITS_PER_MM) });
    return path;
  });

export const fromUnits = (paths: Paths64): Ring[] =>
  paths
    .filter((path) => path.length > 2)
    .map((path) => {
      const ring = new Float64Array(2 * path.length);
      path.forEach(({ x, y }, k) => {
        ring[2 * k] = x / UNITS_PER_MM;
        ring[2 * k + 1] = y / UNITS_PER_MM;
      });
      return ring;
    });

const clipped = (type: ClipType, a: Rings, b: Rings | null, rule: FillRule): Ring[] =>
  fromUnits(booleanOp(type, toUnits(a), b && toUnits(b), rule));

/** Everything that closed lines go round an odd number of times, as rings: what an even-odd fill shows of them. */
export const evenOdd = (lines: Rings): Ring[] => clipped(ClipType.Union, lines, null, FillRule.EvenOdd);

/** All that lies in either of two areas. */
export const joined = (a: Rings, b: Rings): Ring[] => clipped(ClipType.Union, a, b, FillRule.NonZero);

/** What of one area does not lie in another. */
export const without = (a: Rings, b: Rings): Ring[] => clipped(ClipType.Difference, a, b, FillRule.NonZero);

/** What lies in both of two areas. */
export const common = (a: Rings, b: Rings): Ring[] => clipped(ClipType.Intersection, a, b, FillRule.NonZero);

/** Rings with fewer corners, none of which strays further than so many mm. @see Ramer 1972; Douglas & Peucker 1973 */
export const simplified = (rings: Rings, withinMm: number): Ring[] =>
  fromUnits(ramerDouglasPeuckerPaths(toUnits(rings), withinMm * UNITS_PER_MM));
