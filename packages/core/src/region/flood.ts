import { type Work } from "../maths/work";
import { type Rect } from "../raster/types";

/** Pixels filled between two slices. */
const AT_ONCE = 1 << 18;

/** What was filled: how many pixels and the box they lie in. */
export interface Filled extends Rect {
  readonly pixels: number;
}

/**
 * Fills pixels of one value from the seeds over edges (four neighbours), run by run: each run looks once at the
 * row above and once at the row below.
 *
 * @param mask   width x height bytes; those of value `from` that are reached become `to`
 * @param seeds  indices of pixels; one of another value fills nothing
 * @see Smith, "Tint Fill", SIGGRAPH 1979
 */
export function* flood(
  mask: Uint8Array,
  width: number,
  height: number,
  seeds: readonly number[],
  from = 1,
  to = 2,
): Work<Filled> {
  const stack = seeds.slice();
  let pixels = 0;
  let told = AT_ONCE;
  let [left, top, right, bottom] = [width, height, -1, -1];
  while (stack.length > 0) {
    const seed = stack.pop()!;
    if (mask[seed] !== from) continue;
    const start = seed - (seed % width);
    let first = seed;
    let last = seed + 1;
    while (first > start && mask[first - 1] === from) first--;
    while (last < start + width && mask[last] === from) last++;
    mask.fill(to, first, last);
    pixels += last - first;
    if (pixels > told) {
      told += AT_ONCE;
      yield pixels / mask.length;
    }
    if (first - start < left) left = first - start;
    if (last - start > right) right = last - start;
    const row = start / width;
    if (row < top) top = row;
    if (row > bottom) bottom = row;
    // One seed for each run of the rows beside it.
    if (start > 0) seedRuns(mask, first - width, last - width, from, stack);
    if (start + width < width * height) seedRuns(mask, first + width, last + width, from, stack);
  }
  return pixels === 0
    ? { pixels, x: 0, y: 0, width: 0, height: 0 }
    : { pixels, x: left, y: top, width: right - left, height: bottom - top + 1 };
}

function seedRuns(mask: Uint8Array, first: number, end: number, from: number, stack: number[]): void {
  for (let i = first; i < end; i++) {
    if (mask[i] !== from) continue;
    stack.push(i);
    while (i + 1 < end && mask[i + 1] === from) i++;
  }
}
