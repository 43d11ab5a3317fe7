import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow } from "../raster/bits";
import { type Dots } from "./dots";

/** The piece is parted into so many regions each way. */
export const REGIONS = 4;

/**
 * Percent of the art that is marked in each region of the piece, row by row from the top left; -1 where a region holds
 * no art.
 */
export function* coverageByRegion({ bits, cover }: Dots): Work<number[]> {
  const { width, height } = bits;
  const marked = new Float64Array(REGIONS * REGIONS);
  const art = new Float64Array(REGIONS * REGIONS);
  const row = new Uint8Array(width);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    unpackRow(bits, y, row);
    const down = Math.floor((y * REGIONS) / height) * REGIONS;
    for (let u = 0; u < REGIONS; u++) {
      const [from, to] = [Math.ceil((u * width) / REGIONS), Math.ceil(((u + 1) * width) / REGIONS)];
      let [m, a] = [0, 0];
      for (let x = from; x < to; x++) {
        m += row[x];
        if (cover === null || cover[y * width + x] !== 0) a++;
      }
      marked[down + u] += m;
      art[down + u] += a;
    }
  }
  return Array.from(marked, (m, i) => (art[i] === 0 ? -1 : Math.round((1000 * m) / art[i]) / 10));
}
