import { type Rgba } from "../raster/types";
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
export function pick(
  picture: Rgba,
  x: number,
  y: number,
  tolerance: number,
  joined: boolean,
  table?: ColourTable,
): Picked {
  const { width, height } = picture;
  const words = wordsOf(picture.data);
  const at = y * width + x;
  const alike = everywhere(words, new Alike(words[at] & 0xffffff, tolerance, table));
  if (!joined) return alike;
  const { mask } = alike;
  const { pixels } = flood(mask, width, height, [at]);
  for (let i = 0; i < mask.length; i++) mask[i] >>= 1;
  return { mask, pixels };
}

/** Every pixel of a colour, wherever it is. */
export function everywhere(words: Uint32Array, alike: Alike): Picked {
  const mask = new Uint8Array(words.length);
  let pixels = 0;
  for (let i = 0; i < words.length; i++) {
    const yes = alike.has(words[i] & 0xffffff);
    mask[i] = yes;
    pixels += yes;
  }
  return { mask, pixels };
}
