import { rowsAtOnce, type Work } from "../maths/work";
import { type Rect } from "../raster/types";

/**
 * What is known of a label lies together, in so many numbers, so that it is fetched at once: the label that it has become
 * part of, its pixels, the strong ones, its box and where its topmost run begins. A label is where its numbers begin.
 */
const FIELDS = 8;
const [PIXELS, STRONG, LEFT, RIGHT, TOP, BOTTOM, SEED] = [1, 2, 3, 4, 5, 6, 7];
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
  let labels = 0;
  let known = new Int32Array(FIRST_LABELS * FIELDS);
  const row = new Uint8Array(width);
  // Runs of the row above and of this row, three numbers each: first, last, label.
  let [above, runs] = [new Int32Array(3 * (width + 1)), new Int32Array(3 * (width + 1))];
  let aboveEnd = 0;
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    rowAt(y, row);
    let [end, a] = [0, 0];
    for (let x = 0; x < width; x++) {
      if (row[x] === 0) continue;
      const first = x;
      let count = 0;
      for (; x < width && row[x] !== 0; x++) count += row[x] === 1 ? 0 : 1;
      const last = x - 1;
      while (a < aboveEnd && above[a + 1] < first - 1) a += 3;
      let label = -1;
      for (let k = a; k < aboveEnd && above[k] <= last + 1; k += 3) {
        const one = rootOf(known, above[k + 2]);
        label = label < 0 || label === one ? one : united(known, label, one);
      }
      if (label >= 0) takeIn(known, label, first, last, y, count);
      else {
        label = labels++ * FIELDS;
        if (label === known.length) {
          const more = new Int32Array(2 * known.length);
          more.set(known);
          known = more;
        }
        known[label] = label;
        known[label + PIXELS] = last - first + 1;
        known[label + STRONG] = count;
        known[label + LEFT] = known[label + SEED] = first;
        known[label + RIGHT] = last;
        known[label + TOP] = known[label + BOTTOM] = y;
      }
      runs[end] = first;
      runs[end + 1] = last;
      runs[end + 2] = label;
      end += 3;
    }
    [above, runs, aboveEnd] = [runs, above, end];
  }
  const found: Component[] = [];
  for (let k = 0; k < labels; k++) {
    if (k % LABELS_AT_ONCE === 0) yield 1;
    const i = k * FIELDS;
    if (known[i] !== i || known[i + PIXELS] < smallest) continue;
    const [x, y] = [known[i + LEFT], known[i + TOP]];
    found.push({
      x,
      y,
      width: known[i + RIGHT] - x + 1,
      height: known[i + BOTTOM] - y + 1,
      pixels: known[i + PIXELS],
      strong: known[i + STRONG],
      seed: [known[i + SEED], y],
    });
  }
  return found;
}

/** The label that a label has become part of. */
function rootOf(known: Int32Array, label: number): number {
  while (known[label] !== label) label = known[label] = known[known[label]];
  return label;
}

/** Two labels that turn out to be one set: the older one, which holds the topmost pixel, stays. */
function united(known: Int32Array, a: number, b: number): number {
  const [keep, lose] = a < b ? [a, b] : [b, a];
  known[lose] = keep;
  known[keep + PIXELS] += known[lose + PIXELS];
  known[keep + STRONG] += known[lose + STRONG];
  if (known[lose + LEFT] < known[keep + LEFT]) known[keep + LEFT] = known[lose + LEFT];
  if (known[lose + RIGHT] > known[keep + RIGHT]) known[keep + RIGHT] = known[lose + RIGHT];
  if (known[lose + BOTTOM] > known[keep + BOTTOM]) known[keep + BOTTOM] = known[lose + BOTTOM];
  return keep;
}

function takeIn(
  known: Int32Array,
  label: number,
  first: number,
  last: number,
  y: number,
  count: number,
): void {
  known[label + PIXELS] += last - first + 1;
  known[label + STRONG] += count;
  if (first < known[label + LEFT]) known[label + LEFT] = first;
  if (last > known[label + RIGHT]) known[label + RIGHT] = last;
  known[label + BOTTOM] = y;
}
