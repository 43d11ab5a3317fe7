import { inStretches, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";

// Thresholds: what they decide is measured by `npm run films`.

/** Colours that were just worked out are remembered. */
const SLOTS = 1 << 15;

/**
 * Colour with its black deepened and its saturation changed: code values from `black` on are stretched over all of the
 * range, then moved away from their own luma, or towards it. Alpha stays.
 *
 * @param black       0..1, below 1
 * @param saturation  1 leaves it, 0 makes it grey
 * @see Haeberli, "Matrix Operations for Image Processing", 1993
 */
export function* vivid({ width, height, data }: Rgba, black: number, saturation: number): Work<Rgba> {
  if (black === 0 && saturation === 1) return { width, height, data };
  const out = new Uint8Array(data.length);
  const from = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const to = new Uint32Array(out.buffer);
  const keys = new Int32Array(SLOTS).fill(-1);
  const known = new Uint32Array(SLOTS);
  const low = 255 * black;
  const levels = Float64Array.from({ length: 256 }, (_, code) =>
    Math.max(0, ((code - low) * 255) / (255 - low)),
  );
  const moved = (luma: number, v: number): number =>
    Math.min(255, Math.max(0, Math.round(luma + (v - luma) * saturation)));
  const changed = (colour: number): number => {
    const r = levels[colour & 255];
    const g = levels[(colour >> 8) & 255];
    const b = levels[colour >> 16];
    const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    return moved(luma, r) | (moved(luma, g) << 8) | (moved(luma, b) << 16);
  };
  yield* inStretches(from.length, (start, end) => {
    for (let i = start; i < end; i++) {
      const colour = from[i] & 0xffffff;
      const slot = Math.imul(colour, 0x9e3779b1) >>> 17;
      if (keys[slot] !== colour) {
        keys[slot] = colour;
        known[slot] = changed(colour);
      }
      to[i] = ((from[i] & 0xff000000) | known[slot]) >>> 0;
    }
  });
  return { width, height, data: out };
}
