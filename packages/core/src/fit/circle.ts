import { roundKnots, type Knot } from "../path/outline";
import { reversedPath } from "../path/pathSet";
import { ringArea } from "../polygon/rings";
import { span } from "./line";

/** Points within this of a circle, in pixels, and a little more of a large one, are one. */
const [ROUND, ROUND_OF_RADIUS] = [0.15, 0.001];

/**
 * Four knots, when all points lie on a circle, run the way that the points do.
 * @see Kåsa, "A circle fitting procedure and its error analysis", IEEE Trans. Instrum. Meas. 25, 1976
 */
export function circleThrough(points: ArrayLike<number>, tolerance: number): Knot[] | null {
  const count = points.length / 2;
  if (count < 8) return null;
  let [mx, my] = [0, 0];
  for (let k = 0; k < count; k++) {
    mx += points[2 * k] / count;
    my += points[2 * k + 1] / count;
  }
  let [xx, xy, yy, xz, yz, zz] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < count; k++) {
    const [x, y] = [points[2 * k] - mx, points[2 * k + 1] - my];
    const z = x * x + y * y;
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
    zz += z;
  }
  const under = 2 * (xx * yy - xy * xy);
  if (under === 0) return null;
  const [cx, cy] = [(xz * yy - yz * xy) / under, (yz * xx - xz * xy) / under];
  const radius = Math.sqrt(zz / count + cx * cx + cy * cy);
  const limit = Math.min(tolerance, ROUND + ROUND_OF_RADIUS * radius);
  for (let k = 0; k < count; k++) {
    const off = span(points[2 * k] - mx - cx, points[2 * k + 1] - my - cy) - radius;
    if (Math.abs(off) > limit) return null;
  }
  const round = roundKnots(mx + cx - radius, my + cy - radius, 2 * radius, 2 * radius);
  return ringArea(points) >= 0 ? round : [...reversedPath({ knots: round, closed: true }).knots];
}
