import { type KnotPath, reversedPath } from "../path/pathSet";
import { goesRound, partsOf, type Ring, type Rings } from "../polygon/rings";

/** Which way round the outside of a part is run; holes run the other way, so that the same side of the blade is waste. */
export type Way = "clockwise" | "counterclockwise";

/**
 * Rings in the order in which they are cut: what lies inside before what is round it, so that nothing moves before it is
 * done; of parts beside each other always the one nearest to where the last ended.
 */
export function cutOrder(rings: Rings): Ring[] {
  const left = partsOf(rings).map((part) => ({ ...part, ends: [part.outer[0], part.outer[1]] as const }));
  // How many parts' holes a part lies in.
  const depthOf = (outer: Ring): number =>
    left.filter((p) => p.holes.some((hole) => goesRound(hole, outer[0], outer[1]))).length;
  const depths = new Map(left.map((p) => [p.outer, depthOf(p.outer)]));
  const order: Ring[] = [];
  let [x, y] = [0, 0];
  while (left.length > 0) {
    const deepest = Math.max(...left.map((p) => depths.get(p.outer)!));
    let best = -1;
    let nearest = Infinity;
    left.forEach((p, k) => {
      if (depths.get(p.outer)! < deepest) return;
      const off = (p.ends[0] - x) * (p.ends[0] - x) + (p.ends[1] - y) * (p.ends[1] - y);
      if (off < nearest) [nearest, best] = [off, k];
    });
    const [{ outer, holes }] = left.splice(best, 1);
    order.push(...holes, outer);
    [x, y] = [outer[0], outer[1]];
  }
  return order;
}

/** Paths of rings, which run clockwise round an area, the way that is wished. */
export const runWay = (paths: readonly KnotPath[], way: Way): readonly KnotPath[] =>
  way === "clockwise" ? paths : paths.map(reversedPath);
