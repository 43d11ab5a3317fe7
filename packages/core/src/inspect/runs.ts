import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow } from "../raster/bits";
import { type Dots } from "./dots";

/** Runs are counted by length up to this; the last place counts all longer ones. */
export const LONGEST_RUN = 32;

/** How many runs of marks, and of gaps between them, there are of each length along the rows, from one dot up. */
export function* runLengths({ bits, cover }: Dots): Work<{ marks: number[]; gaps: number[] }> {
  const { width, height } = bits;
  const counts = [new Float64Array(LONGEST_RUN + 1), new Float64Array(LONGEST_RUN + 1)];
  const row = new Uint8Array(width);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    unpackRow(bits, y, row);
    for (let x = 0; x < width;) {
      const first = x;
      const kind = row[x];
      while (x < width && row[x] === kind) x++;
      // What lies outside the art, and what the picture's edge cuts off, is no gap between marks.
      if (kind === 0 && (first === 0 || x === width || (cover && cover[y * width + first] === 0))) continue;
      counts[kind][Math.min(LONGEST_RUN, x - first)]++;
    }
  }
  return { marks: Array.from(counts[1].subarray(1)), gaps: Array.from(counts[0].subarray(1)) };
}
