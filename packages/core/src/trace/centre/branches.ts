import { inStretches, type Work } from "../../maths/work";

/** A line of pixels between two junctions or ends; of a closed one both are none. */
export interface Branch {
  /** Pixels, in order; those of the junctions themselves are not among them. */
  readonly pixels: readonly number[];
  /** Numbers of the junctions at its beginning and end; -1 where it ends free. */
  readonly from: number;
  readonly to: number;
  readonly closed: boolean;
}

export interface Skeleton {
  readonly branches: readonly Branch[];
  /** Pixels of every junction. */
  readonly junctions: readonly (readonly number[])[];
}

/** Pixels looked at between two slices. */
const AT_ONCE = 1 << 13;

/** Takes a drawing one pixel wide apart into lines and the junctions where three or more meet. */
export function* branchesOf(mask: Uint8Array, width: number): Work<Skeleton> {
  // Straight neighbours first, so that a step goes on rather than across a corner.
  const around = [-width, 1, width, -1, -width + 1, width + 1, width - 1, -width - 1];
  const neighbours = (i: number): number[] => around.map((d) => i + d).filter((j) => mask[j] === 1);
  const ring = [-width, -width + 1, 1, width + 1, width, width - 1, -1, -width - 1];
  /** How many lines leave a pixel: runs of set pixels around it. */
  const lines = (i: number): number => {
    let runs = 0;
    for (let k = 0; k < 8; k++) if (!mask[i + ring[k]] && mask[i + ring[(k + 1) % 8]]) runs++;
    return runs;
  };
  const junctionOf = new Map<number, number>();
  const junctions: number[][] = [];
  const set: number[] = [];
  yield* inStretches(mask.length, (from, to) => {
    for (let i = from; i < to; i++) if (mask[i]) set.push(i);
  });
  const isJunction = new Set<number>();
  for (const [k, i] of set.entries()) {
    if (k % AT_ONCE === 0) yield 0.2 + (0.2 * k) / set.length;
    if (lines(i) > 2) isJunction.add(i);
  }
  for (const start of isJunction) {
    if (junctionOf.has(start)) continue;
    const cluster = [start];
    junctionOf.set(start, junctions.length);
    for (const i of cluster)
      for (const j of neighbours(i))
        if (isJunction.has(j) && !junctionOf.has(j)) {
          junctionOf.set(j, junctions.length);
          cluster.push(j);
        }
    junctions.push(cluster);
  }
  const passed = new Set<number>();
  const branches: Branch[] = [];
  /** Goes on from a pixel until a junction, an end, or where it began. */
  const walk = (first: number, from: number): Branch => {
    const pixels = [first];
    passed.add(first);
    for (let at = first; ;) {
      const next = neighbours(at).filter((j) => !passed.has(j));
      const node = next.find((j) => junctionOf.has(j) && (pixels.length > 1 || junctionOf.get(j) !== from));
      if (node !== undefined) return { pixels, from, to: junctionOf.get(node)!, closed: false };
      // What lies at the same junction as the first pixel begins a branch of its own.
      const goesOut = (j: number) =>
        pixels.length > 1 || from < 0 || neighbours(j).every((q) => junctionOf.get(q) !== from);
      const on = next.find((j) => !junctionOf.has(j) && goesOut(j));
      if (on === undefined) {
        // Back at its own junction, or at an end.
        const own = pixels.length > 2 ? neighbours(at).find((j) => junctionOf.has(j)) : undefined;
        return { pixels, from, to: own === undefined ? -1 : junctionOf.get(own)!, closed: false };
      }
      passed.add(on);
      pixels.push(on);
      at = on;
    }
  };
  let told = 0;
  for (const [node, cluster] of junctions.entries()) {
    if (passed.size >= told) {
      told = passed.size + AT_ONCE;
      yield 0.4 + (0.3 * node) / junctions.length;
    }
    for (const i of cluster)
      for (const j of neighbours(i)) if (!junctionOf.has(j) && !passed.has(j)) branches.push(walk(j, node));
  }
  for (const [k, i] of set.entries()) {
    if (k % AT_ONCE === 0) yield 0.7 + (0.2 * k) / set.length;
    if (!passed.has(i) && !junctionOf.has(i) && neighbours(i).length <= 1) branches.push(walk(i, -1));
  }
  for (const [k, i] of set.entries()) {
    if (k % AT_ONCE === 0) yield 0.9 + (0.1 * k) / set.length;
    if (passed.has(i) || junctionOf.has(i)) continue;
    branches.push({ ...walk(i, -1), closed: true });
  }
  return { branches, junctions };
}
