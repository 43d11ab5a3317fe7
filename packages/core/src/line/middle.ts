import { inStretches, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { squaredDistanceTo } from "../region/distance";

/** Cosine under which two directions count as opposite: more than 143 degrees apart. */
const OPPOSITE = -0.8;
/** The neighbour on the far side may lie so much deeper, in pixels; else it is the middle. */
const DEEPER = 0.5;

/** What is set, not set, and the other way round. */
export function* inverted(mask: Uint8Array): Work<Uint8Array> {
  const out = new Uint8Array(mask.length);
  yield* inStretches(mask.length, (from, to) => {
    for (let i = from; i < to; i++) out[i] = mask[i] ^ 1;
  });
  return out;
}

/**
 * Along the middle of every stroke, how wide the stroke is there. A pixel is in the middle when the nearest bare pixel
 * and the one nearest to its neighbour on the far side lie opposite each other; so a corner of a wide shape, where they
 * lie at an angle, is no thin stroke, and a sharp tip is.
 *
 * @param mask   width x height bytes, 0 or 1
 * @param along  called for each pixel of a middle with the width there, in pixels
 * @see Blum, "A transformation for extracting new descriptors of shape", 1967, for the middle as a place between
 *      nearest edges; the widths are of the exact distances of `region/distance.ts`
 */
export function* alongMiddles(
  mask: Uint8Array,
  width: number,
  height: number,
  along: (x: number, y: number, wide: number) => void,
): Work<void> {
  const bare = yield* workSlice(inverted(mask), 0, 0.05);
  const nearest = new Int32Array(width * height);
  const square = yield* workSlice(squaredDistanceTo(bare, width, height, nearest), 0.05, 0.8);
  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.8 + (0.2 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if (mask[i] === 0 || nearest[i] < 0) continue;
      const n = nearest[i];
      const [dx, dy] = [(n % width) - x, Math.floor(n / width) - y];
      const far = Math.sqrt(square[i]);
      const [qx, qy] = [x - Math.round(dx / far), y - Math.round(dy / far)];
      if (qx < 0 || qy < 0 || qx >= width || qy >= height) {
        along(x, y, far); // the stroke runs out of the picture
        continue;
      }
      const m = nearest[qy * width + qx];
      const [ex, ey] = [(m % width) - x, Math.floor(m / width) - y];
      const across = Math.sqrt(ex * ex + ey * ey);
      if (Math.sqrt(square[qy * width + qx]) > far + DEEPER) continue;
      if (dx * ex + dy * ey <= OPPOSITE * far * across) along(x, y, far + across - 1);
    }
  }
}
