import { inStretches, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";

/** How much ink each pixel has as it looks on white: 0 none, 255 black (Rec. 709 luma of the coded values). */
export function* inkOf({ data, width, height }: Rgba): Work<Uint8Array> {
  const ink = new Uint8Array(width * height);
  yield* inStretches(ink.length, (from, to) => {
    for (let i = from, j = 4 * from; i < to; i++, j += 4) {
      const dark = 255 - (0.2126 * data[j] + 0.7152 * data[j + 1] + 0.0722 * data[j + 2]);
      ink[i] = (dark * data[j + 3]) / 255 + 0.5;
    }
  });
  return ink;
}
