import { labOf, labOfHex } from "./glareLab";
import { labDistance } from "../colour/oklab";
import { inStretches, type Work } from "../maths/work";

export interface KnockOut {
  /** So near the garment's colour, in hundredths of OKLab, nothing is printed. */
  readonly tolerance: number;
  /** Over so much more of it the print comes in. */
  readonly softness: number;
}

/**
 * How much of each pixel is left when the garment's own colour is taken out, 0..255.
 * @param colours  0xbbggrr or more, as RGBA bytes are read
 */
export function* keptBeside(
  colours: Uint32Array,
  garment: string,
  { tolerance, softness }: KnockOut,
): Work<Uint8Array> {
  const cloth = labOfHex(garment);
  const kept = new Uint8Array(colours.length);
  let [last, share] = [-1, 0];
  yield* inStretches(colours.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const colour = colours[i] & 0xffffff;
      if (colour !== last) {
        last = colour;
        const d = labDistance(labOf(colour & 255, (colour >> 8) & 255, colour >> 16), cloth);
        share =
          d <= tolerance
            ? 0
            : softness === 0
              ? 255
              : Math.min(255, Math.round((255 * (d - tolerance)) / softness));
      }
      kept[i] = share;
    }
  });
  return kept;
}

/** Greys of a plate, 255 = bare, faded to bare where less is kept. */
export function* faded(plane: Uint8Array, kept: Uint8Array): Work<void> {
  yield* inStretches(plane.length, (from, to) => {
    for (let i = from; i < to; i++)
      if (kept[i] < 255) plane[i] = 255 - Math.round(((255 - plane[i]) * kept[i]) / 255);
  });
}
