import { rowsAtOnce, type Work } from "../maths/work";
import { type Gray } from "../raster/types";

/** Pieces of ink that hang together over edges. */
export interface InkPieces {
  /** Of each pixel the number of its piece, from 1; 0 is paper, and the picture's outermost pixels. */
  readonly of: Int32Array;
  /** Pixels of each piece, by its number. */
  readonly sizes: readonly number[];
}

/** Which piece of ink, under 128, each pixel belongs to. */
export function* inkPieces({ width, height, data }: Gray): Work<InkPieces> {
  const of = new Int32Array(data.length);
  const sizes = [0];
  const around = [-width, -1, 1, width];
  const atOnce = rowsAtOnce(width);
  for (let y = 1; y < height - 1; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 1, i = y * width + x; x < width - 1; x++, i++) {
      if (data[i] >= 128 || of[i] !== 0) continue;
      const own = sizes.length;
      const left = [i];
      of[i] = own;
      let size = 0;
      for (let p = left.pop(); p !== undefined; p = left.pop()) {
        size++;
        if (p < width || p >= data.length - width) continue;
        for (const d of around)
          if (data[p + d] < 128 && of[p + d] === 0) {
            of[p + d] = own;
            left.push(p + d);
          }
      }
      sizes.push(size);
    }
  }
  return { of, sizes };
}
