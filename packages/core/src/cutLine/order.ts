import { type Work } from "../maths/work";
import { type KnotPath, reversedPath } from "../path/pathSet";
import { partsOf, RingsAround } from "../polygon/around";
import { type Ring, type Rings } from "../polygon/rings";

/** Which way round the outside of a part is run; holes run the other way, so that the same side of the blade is waste. */
export type Way = "clockwise" | "counterclockwise";

/**
 * Rings in the order in which they are cut: what lies inside before what is round it, so that nothing moves before it is
 * done; of parts beside each other always the one nearest to where the last ended.
 */
export function* cutOrder(rings: Rings): Work<Ring[]> {
  const parts = partsOf(rings);
  const holes = parts.flatMap((part, k) => part.holes.map((ring) => ({ ring, of: k })));
  const around = new RingsAround(holes.map(({ ring }) => ring));
  // How many parts' holes a part lies in; of a part with several, only one can go round it.
  const depths = parts.map(({ outer: [x, y] }) => around.round(x, y).length);
  const order: Ring[] = [];
  let [x, y] = [0, 0];
  for (const depth of [...new Set(depths)].sort((a, b) => b - a)) {
    const left = parts.filter((_, k) => depths[k] === depth);
    const xs = Float64Array.from(left, ({ outer }) => outer[0]);
    const ys = Float64Array.from(left, ({ outer }) => outer[1]);
    const waiting = Int32Array.from(left.keys());
    for (let count = left.length; count > 0; count--) {
      if ((left.length - count) % Math.ceil(LOOKS_AT_ONCE / count) === 0) yield order.length / rings.length;
      const next = nearestOf(xs, ys, waiting, count, x, y);
      const { outer, holes: own } = left[waiting[next]];
      waiting.copyWithin(next, next + 1, count);
      order.push(...own, outer);
      [x, y] = [outer[0], outer[1]];
    }
  }
  return order;
}

/** Distances between two slices. */
const LOOKS_AT_ONCE = 1 << 20;

/** Which of the first so many waiting is the nearest to a place; of two as near the first. */
function nearestOf(
  xs: Float64Array,
  ys: Float64Array,
  waiting: Int32Array,
  count: number,
  x: number,
  y: number,
): number {
  let [best, nearest] = [0, Infinity];
  for (let k = 0; k < count; k++) {
    const [dx, dy] = [xs[waiting[k]] - x, ys[waiting[k]] - y];
    const off = dx * dx + dy * dy;
    if (off < nearest) [nearest, best] = [off, k];
  }
  return best;
}

/** Paths of rings, which run clockwise round an area, the way that is wished. */
export const runWay = (paths: readonly KnotPath[], way: Way): readonly KnotPath[] =>
  way === "clockwise" ? paths : paths.map(reversedPath);
