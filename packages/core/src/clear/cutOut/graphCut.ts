import { type Work } from "../../maths/work";

/** Steps to the eight neighbours; the opposite of direction d is 7 - d. */
export const STEPS = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [-1, 0],
  [1, 0],
  [-1, 1],
  [0, 1],
  [1, 1],
] as const;

/** Which tree a pixel is in, and how it hangs there: by a step 0 to 7, or one of these. */
const [FREE, SOURCE, SINK] = [0, 1, 2];
const [NONE, TERMINAL, ORPHAN] = [-1, 8, 9];

/**
 * The cheapest cut of a picture in two: which pixels stay with the source. Two search trees grow from the source
 * and from the sink; where they touch, flow is pushed, and what is cut loose looks for another parent.
 *
 * @param terminal   what it costs, for each pixel, to part it from the source (above 0) or from the sink (below 0)
 * @param capacity   what it costs to part pixel i from its neighbour in direction d, at 8 i + d; 0 outside the
 *                   picture. Is used up
 * @returns          1 = with the source
 * @see Boykov & Kolmogorov, "An Experimental Comparison of Min-Cut/Max-Flow Algorithms for Energy Minimization
 *      in Vision", IEEE PAMI 26, 2004
 */
export function* cheapestCut(
  width: number,
  height: number,
  terminal: Int32Array,
  capacity: Int32Array,
): Work<Uint8Array> {
  const count = width * height;
  const offset = STEPS.map(([dx, dy]) => dy * width + dx);
  const rest = terminal.slice();
  const tree = new Uint8Array(count);
  const parent = new Int8Array(count).fill(NONE);
  const stamp = new Int32Array(count);
  const depth = new Int32Array(count);
  const queued = new Uint8Array(count);
  let queue: number[] = [];
  let head = 0;
  let time = 0;

  const activate = (i: number): void => {
    if (queued[i]) return;
    queued[i] = 1;
    queue.push(i);
  };
  for (let i = 0; i < count; i++) {
    if (rest[i] === 0) continue;
    tree[i] = rest[i] > 0 ? SOURCE : SINK;
    parent[i] = TERMINAL;
    depth[i] = 1;
    activate(i);
  }

  const orphans: number[] = [];
  const orphan = (i: number): void => {
    parent[i] = ORPHAN;
    orphans.push(i);
  };

  /** Pushes what fits along the path source ... i, i + d ... sink. */
  function augment(i: number, d: number): void {
    const j = i + offset[d];
    let room = capacity[i * 8 + d];
    for (let k = i; ; k += offset[parent[k]]) {
      const p = parent[k];
      if (p === TERMINAL) {
        if (rest[k] < room) room = rest[k];
        break;
      }
      const back = capacity[(k + offset[p]) * 8 + 7 - p];
      if (back < room) room = back;
    }
    for (let k = j; ; k += offset[parent[k]]) {
      const p = parent[k];
      if (p === TERMINAL) {
        if (-rest[k] < room) room = -rest[k];
        break;
      }
      if (capacity[k * 8 + p] < room) room = capacity[k * 8 + p];
    }
    capacity[i * 8 + d] -= room;
    capacity[j * 8 + 7 - d] += room;
    for (let k = i; ;) {
      const p = parent[k];
      if (p === TERMINAL) {
        rest[k] -= room;
        if (rest[k] === 0) orphan(k);
        break;
      }
      const up = k + offset[p];
      capacity[k * 8 + p] += room;
      capacity[up * 8 + 7 - p] -= room;
      if (capacity[up * 8 + 7 - p] === 0) orphan(k);
      k = up;
    }
    for (let k = j; ;) {
      const p = parent[k];
      if (p === TERMINAL) {
        rest[k] += room;
        if (rest[k] === 0) orphan(k);
        break;
      }
      const up = k + offset[p];
      capacity[up * 8 + 7 - p] += room;
      capacity[k * 8 + p] -= room;
      if (capacity[k * 8 + p] === 0) orphan(k);
      k = up;
    }
  }

  /** Steps to the terminal over j, or 0 when j hangs on an orphan. */
  function stepsFrom(j: number): number {
    let steps = 0;
    for (let k = j; ;) {
      if (stamp[k] === time) return steps + depth[k];
      const p = parent[k];
      steps++;
      if (p === TERMINAL) {
        stamp[k] = time;
        depth[k] = 1;
        return steps;
      }
      if (p === ORPHAN || p === NONE) return 0;
      k += offset[p];
    }
  }

  function adopt(i: number): void {
    const own = tree[i];
    let best = NONE;
    let least = 0x7fffffff;
    for (let d = 0; d < 8; d++) {
      const j = i + offset[d];
      if (j < 0 || j >= count || tree[j] !== own || parent[j] === NONE) continue;
      const room = own === SOURCE ? capacity[j * 8 + 7 - d] : capacity[i * 8 + d];
      if (room === 0) continue;
      let steps = stepsFrom(j);
      if (steps === 0) continue;
      if (steps < least) {
        best = d;
        least = steps;
      }
      // what was just walked is marked, so that the next walk along it is short
      for (let k = j; stamp[k] !== time; k += offset[parent[k]]) {
        stamp[k] = time;
        depth[k] = steps--;
      }
    }
    parent[i] = best;
    if (best !== NONE) {
      stamp[i] = time;
      depth[i] = least + 1;
      return;
    }
    for (let d = 0; d < 8; d++) {
      const j = i + offset[d];
      if (j < 0 || j >= count || tree[j] !== own || parent[j] === NONE) continue;
      if (capacity[i * 8 + d] === 0 && capacity[j * 8 + 7 - d] === 0) continue; // not neighbours in the picture
      const room = own === SOURCE ? capacity[j * 8 + 7 - d] : capacity[i * 8 + d];
      if (room > 0) activate(j);
      if (parent[j] === 7 - d) orphan(j);
    }
    tree[i] = FREE;
  }

  let rounds = 0;
  let current = -1;
  for (;;) {
    if (rounds++ % 4096 === 0) yield 0.5;
    if (current < 0 || tree[current] === FREE) {
      current = -1;
      while (head < queue.length) {
        const i = queue[head++];
        queued[i] = 0;
        if (tree[i] !== FREE && parent[i] !== NONE) {
          current = i;
          break;
        }
      }
      if (head > 65536) {
        queue = queue.slice(head);
        head = 0;
      }
      if (current < 0) break;
    }
    const i = current;
    const own = tree[i];
    let met = -1;
    for (let d = 0; d < 8; d++) {
      const j = i + offset[d];
      if (j < 0 || j >= count) continue;
      const room = own === SOURCE ? capacity[i * 8 + d] : capacity[j * 8 + 7 - d];
      if (room === 0) continue;
      if (tree[j] === FREE) {
        tree[j] = own;
        parent[j] = 7 - d;
        stamp[j] = stamp[i];
        depth[j] = depth[i] + 1;
        activate(j);
      } else if (tree[j] !== own) {
        met = d;
        break;
      } else if (stamp[j] <= stamp[i] && depth[j] > depth[i] && parent[j] !== TERMINAL) {
        parent[j] = 7 - d;
        stamp[j] = stamp[i];
        depth[j] = depth[i] + 1;
      }
    }
    time++;
    if (met < 0) {
      current = -1;
      continue;
    }
    // The path runs from the source's side to the sink's.
    if (own === SOURCE) augment(i, met);
    else augment(i + offset[met], 7 - met);
    for (let k = 0; k < orphans.length; k++) adopt(orphans[k]); // first in, first out; adopting adds to the list
    orphans.length = 0;
  }
  for (let i = 0; i < count; i++) tree[i] = tree[i] === SOURCE ? 1 : 0;
  return tree;
}
