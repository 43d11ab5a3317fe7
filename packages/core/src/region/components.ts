import { rowsAtOnce, type Work } from "../maths/work";
import { type Rect } from "../raster/types";

/** Labels that there is room for at first; twice as many each time that more are needed. */
const FIRST_LABELS = 4096;
/** Labels looked through between two slices. */
const LABELS_AT_ONCE = 1 << 16;

/** A connected set of pixels: how many, the box they fill and one pixel of it. */
export interface Component extends Rect {
  readonly pixels: number;
  /** How many of them were set to more than 1. */
  readonly strong: number;
  /** A pixel that belongs to it. */
  readonly seed: readonly [number, number];
}

/**
 * Connected components of the set pixels, joined over edges and corners (eight neighbours), in the order of
 * their topmost, then leftmost pixel. Works on runs: each run of a row is united with the runs it touches
 * in the row above.
 *
 * @param rowAt  writes row y into the buffer, non-zero = set; more than 1 = set and counted as strong
 * @see Rosenfeld & Pfaltz, "Sequential Operations in Digital Picture Processing", J. ACM 13, 1966
 * @see Tarjan, "Efficiency of a Good But Not Linear Set Union Algorithm", J. ACM 22, 1975
 */
export function* componentsOf(
  width: number,
  height: number,
  rowAt: (y: number, row: Uint8Array) => void,
  smallest = 1,
): Work<Component[]> {
  let room = FIRST_LABELS;
  let labels = 0;
  const plane = (): Int32Array => new Int32Array(room);
  let [parent, pixels, strong, left] = [plane(), plane(), plane(), plane()];
  let [right, top, bottom, seedX] = [plane(), plane(), plane(), plane()];
  const grow = (): void => {
    room *= 2;
    const more = (old: Int32Array): Int32Array => {
      const next = plane();
      next.set(old);
      return next;
    };
    [parent, pixels, strong, left] = [parent, pixels, strong, left].map(more);
    [right, top, bottom, seedX] = [right, top, bottom, seedX].map(more);
  };
  const row = new Uint8Array(width);

  const find = (a: number): number => {
    while (parent[a] !== a) a = parent[a] = parent[parent[a]];
    return a;
  };
  const unite = (one: number, other: number): number => {
    const a = find(one);
    const b = find(other);
    if (a === b) return a;
    const [keep, lose] = a < b ? [a, b] : [b, a]; // the older one holds the topmost pixel
    parent[lose] = keep;
    pixels[keep] += pixels[lose];
    strong[keep] += strong[lose];
    if (left[lose] < left[keep]) left[keep] = left[lose];
    if (right[lose] > right[keep]) right[keep] = right[lose];
    if (bottom[lose] > bottom[keep]) bottom[keep] = bottom[lose];
    return keep;
  };

  // Runs of the row above and of this row, three numbers each: first, last, label.
  let above: number[] = [];
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    rowAt(y, row);
    const runs: number[] = [];
    let a = 0;
    for (let x = 0; x < width; x++) {
      if (row[x] === 0) continue;
      const first = x;
      let count = 0;
      while (x < width && row[x] !== 0) count += +(row[x++] > 1);
      const last = x - 1;
      let label = -1;
      while (a < above.length && above[a + 1] < first - 1) a += 3;
      for (let k = a; k < above.length && above[k] <= last + 1; k += 3) {
        label = label < 0 ? find(above[k + 2]) : unite(label, above[k + 2]);
      }
      if (label < 0) {
        if (labels === room) grow();
        label = labels++;
        parent[label] = label;
        pixels[label] = last - first + 1;
        strong[label] = count;
        left[label] = first;
        right[label] = last;
        top[label] = y;
        bottom[label] = y;
        seedX[label] = first;
      } else {
        pixels[label] += last - first + 1;
        strong[label] += count;
        if (first < left[label]) left[label] = first;
        if (last > right[label]) right[label] = last;
        bottom[label] = y;
      }
      runs.push(first, last, label);
    }
    above = runs;
  }
  const found: Component[] = [];
  for (let i = 0; i < labels; i++) {
    if (i % LABELS_AT_ONCE === 0) yield 1;
    if (parent[i] !== i || pixels[i] < smallest) continue;
    found.push({
      x: left[i],
      y: top[i],
      width: right[i] - left[i] + 1,
      height: bottom[i] - top[i] + 1,
      pixels: pixels[i],
      strong: strong[i],
      seed: [seedX[i], top[i]],
    });
  }
  return found;
}
