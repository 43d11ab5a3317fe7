import { inStretches, workSlice, type Work } from "../maths/work";
import { TINT, type Rgba } from "../raster/types";
import { flood } from "../region/flood";
import { Alike, wordsOf, type ColourTable } from "./alike";

export interface Picked {
  /** width x height, 1 = a click takes it */
  readonly mask: Uint8Array;
  readonly pixels: number;
}

/**
 * What a click takes away: pixels whose colour is within `tolerance` of the clicked pixel's, in OKLab times 100.
 *
 * @param x, y    the clicked pixel
 * @param joined  only those that can be reached from it over alike pixels' edges
 * @param table   to use again, for whoever picks often
 */
export function* pick(
  picture: Rgba,
  x: number,
  y: number,
  tolerance: number,
  joined: boolean,
  table?: ColourTable,
): Work<Picked> {
  const { width, height } = picture;
  const words = wordsOf(picture.data);
  const at = y * width + x;
  const wanted = new Alike(words[at] & 0xffffff, tolerance, table);
  const alike = yield* workSlice(everywhere(words, wanted, words[at] >>> 24 < TINT), 0, 0.6);
  if (!joined) return alike;
  const { mask } = alike;
  const { pixels } = yield* workSlice(flood(mask, width, height, [at]), 0.6, 0.95);
  for (let i = 0; i < mask.length; i++) mask[i] >>= 1;
  return { mask, pixels };
}

/** Every pixel of a colour, wherever it is; what is clear has none, and is alike among itself. */
export function* everywhere(words: Uint32Array, alike: Alike, clear = false): Work<Picked> {
  const mask = new Uint8Array(words.length);
  let pixels = 0;
  yield* inStretches(words.length, (from, to) => {
    let found = 0;
    for (let i = from; i < to; i++) {
      const yes = words[i] >>> 24 < TINT ? Number(clear) : clear ? 0 : alike.has(words[i] & 0xffffff);
      mask[i] = yes;
      found += yes;
    }
    pixels += found;
  });
  return { mask, pixels };
}
