import { sinPi } from "../maths/steady";
import { type Knot } from "../path/outline";

const cosPi = (halves: number): number => sinPi(halves + 0.5);

/** An arc is cut into pieces of a quarter turn at most, each off by less than 0.03 % of the radius. */
const MOST_TURN = 0.5;

/**
 * An elliptic arc as knots. Angles are in half turns, from the axis `ax` towards the axis `bx`.
 *
 * @param ax, ay  half axis at angle 0; bx, by at a quarter turn
 * @see Goldapp, "Approximation of circular arcs by cubic polynomials", CAGD 8, 1991, for the length of the handles
 */
export function arcKnots(
  [cx, cy]: readonly [number, number],
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  from: number,
  to: number,
): Knot[] {
  const pieces = Math.max(1, Math.ceil(Math.abs(to - from) / MOST_TURN - 1e-9));
  const step = (to - from) / pieces;
  // tan(a / 4) by half angles, without a tangent: sin / (1 + cos).
  const reach = ((4 / 3) * sinPi(step / 4)) / cosPi(step / 4);
  return Array.from({ length: pieces + 1 }, (_, k): Knot => {
    const angle = from + step * k;
    const [c, s] = [cosPi(angle), sinPi(angle)];
    const way: [number, number] = [(-s * ax + c * bx) * reach, (-s * ay + c * by) * reach];
    return {
      at: [cx + c * ax + s * bx, cy + c * ay + s * by],
      ...(k > 0 ? { in: [-way[0], -way[1]] as const } : {}),
      ...(k < pieces ? { out: way } : {}),
    };
  });
}
