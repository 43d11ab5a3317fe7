import { weightedSum } from "../maths/rows";
import { rowsAtOnce, type Work } from "../maths/work";
import { type Contributions } from "./filters";

/** One row of one channel, filtered across into `out`. */
export function acrossOne(
  input: Float64Array,
  { taps, first, weights }: Contributions,
  out: Float64Array,
): void {
  for (let o = 0, w = 0; o < out.length; o++) {
    let i = first[o];
    let sum = 0;
    for (const end = w + taps; w < end; w++, i++) sum += input[i] * weights[w];
    out[o] = sum;
  }
}

/**
 * Filters down the columns first: rows are summed whole, which is the cheap direction, and only rows of the
 * result are then filtered across.
 *
 * @param load  writes input row y, in linear light, into a row of `length`
 * @param emit  takes row y of the result, still as wide as the input
 */
export function* filterDown(
  { taps, first, weights }: Contributions,
  length: number,
  load: (y: number, row: Float64Array) => void,
  emit: (y: number, row: Float64Array) => void,
): Work<void> {
  const height = first.length;
  const kept = Array.from({ length: taps }, () => new Float64Array(length)); // input row y is in place y mod taps
  const rows = Array.from({ length: taps }, (_, k) => kept[k]);
  const sum = new Float64Array(length);
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(length) / taps));
  let loaded = 0;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const start = first[y];
    for (loaded = Math.max(loaded, start); loaded < start + taps; loaded++) load(loaded, kept[loaded % taps]);
    for (let t = 0; t < taps; t++) rows[t] = kept[(start + t) % taps];
    weightedSum(rows, weights, y * taps, sum);
    emit(y, sum);
  }
}
