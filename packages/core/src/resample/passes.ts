import { rowsAtOnce, type Work } from "../maths/work";
import { type Room } from "../simd/room";
import { type Contributions } from "./filters";

/**
 * Filters down the columns first: rows are summed whole, which is the cheap direction, and only rows of the
 * result are then filtered across.
 *
 * @param room  for `taps` rows of `length` and one more
 * @param load  writes input row y, in linear light, into a row of `length`
 * @param emit  takes row y of the result, still as wide as the input
 * @param has   whether an input row has arrived; while it has not, nothing is done but to yield
 */
export function* filterDown(
  room: Room,
  { taps, first, weights }: Contributions,
  length: number,
  load: (y: number, row: Float64Array) => void,
  emit: (y: number, row: Float64Array) => void,
  has: (y: number) => boolean = () => true,
): Work<void> {
  const height = first.length;
  const kept = Array.from({ length: taps }, () => room.row(length)); // input row y is in place y mod taps
  const rows = Array.from({ length: taps }, (_, k) => kept[k]);
  const sum = room.row(length);
  const atOnce = Math.max(1, Math.floor((3 * rowsAtOnce(length)) / taps));
  let loaded = 0;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const start = first[y];
    for (loaded = Math.max(loaded, start); loaded < start + taps; loaded++) {
      while (!has(loaded)) yield y / height;
      load(loaded, kept[loaded % taps]);
    }
    for (let t = 0; t < taps; t++) rows[t] = kept[(start + t) % taps];
    room.sum(rows, weights, y * taps, sum);
    emit(y, sum);
  }
}

/** What a room must hold to filter one picture. */
export const numbersOf = (...all: Contributions[]): number =>
  all.reduce((n, { first, taps }) => n + (first.length + 1) * (taps + 1), 0);
