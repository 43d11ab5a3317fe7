import { copied } from "../maths/copy";
import { inStretches, workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { squaredDistanceTo } from "../region/distance";

// Thresholds: what they decide is measured by `npm run clears`.

/** How far the art's colour runs on under bare pixels, in pixels: further than any resampling kernel looks. */
const REACH = 8;

/**
 * The picture as it is given away: under bare pixels lies nothing of what was taken away. Beside the art its own
 * colour runs on, so that a program that resamples without regard to alpha draws no old background into the edge;
 * elsewhere all channels are 0. What has any cover is as it was.
 */
export function* bledUnder({ width, height, data }: Rgba): Work<Rgba> {
  const art = new Uint8Array(width * height);
  const look = inStretches(art.length, (from, to) => {
    for (let i = from; i < to; i++) art[i] = data[i * 4 + 3] === 0 ? 0 : 1;
  });
  yield* workSlice(look, 0, 0.1);
  const nearest = new Int32Array(width * height);
  const square = yield* workSlice(squaredDistanceTo(art, width, height, nearest), 0.1, 0.7);
  const out = yield* workSlice(copied(data), 0.7, 0.8);
  const bleed = inStretches(art.length, (from, to) => {
    for (let i = from, o = 4 * from; i < to; i++, o += 4) {
      if (art[i]) continue;
      const near = square[i] <= REACH * REACH;
      for (let k = 0; k < 3; k++) out[o + k] = near ? data[nearest[i] * 4 + k] : 0;
    }
  });
  yield* workSlice(bleed, 0.8, 1);
  return { width, height, data: out };
}
