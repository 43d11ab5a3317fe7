import { type Knot } from "@hardline/core/path/outline";
import { type At } from "./onTable";

/** A place that was clicked, and whether the stretch up to it is straight. */
export interface Clicked {
  readonly at: At;
  readonly straight: boolean;
}

/** A sixth of the way between the neighbours: how far handles reach for the curve to follow evenly. */
const SIXTH = 1 / 6;

/**
 * Knots of a curve through places. Beside a straight stretch a point is a corner.
 * @see Catmull & Rom, "A class of local interpolating splines", 1974
 */
export function curveThrough(points: readonly Clicked[], closed: boolean): Knot[] {
  const count = points.length;
  const at = (k: number): At | null =>
    closed ? points[(k + count) % count].at : k >= 0 && k < count ? points[k].at : null;
  const straightInto = (k: number): boolean =>
    closed ? points[(k + count) % count].straight : !!points[k]?.straight;
  return points.map(({ at: own }, k): Knot => {
    const [before, after] = [at(k - 1), at(k + 1)];
    const corner = straightInto(k) || (k + 1 < count || closed ? straightInto(k + 1) : false);
    if (corner || !before || !after) return { at: own };
    const way: At = [(after[0] - before[0]) * SIXTH, (after[1] - before[1]) * SIXTH];
    return { at: own, in: [-way[0], -way[1]], out: way };
  });
}
