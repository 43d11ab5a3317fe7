import { rowsAtOnce, type Work } from "../maths/work";

/** Squared distance of a pixel when nothing is set anywhere. */
export const NOWHERE = 0x3fffffff;
/** Squared distance of whatever is 32,768 pixels off or more. */
const FARTHEST = NOWHERE - 1;

/**
 * Exact squared Euclidean distance from every pixel to the nearest set one, and which one that is. Columns
 * first, by counting; then along each row the lower envelope of the parabolas that the columns give.
 *
 * @param mask     width x height bytes, non-zero = set
 * @param nearest  when given, gets the index of the nearest set pixel (-1 where nothing is set)
 * @returns        squared pixels, whole numbers, `FARTHEST` at most; `NOWHERE` everywhere if nothing is set
 * @see Meijster, Roerdink & Hesselink, "A General Algorithm for Computing Distance Transforms in Linear Time", 2000
 * @see Felzenszwalb & Huttenlocher, "Distance Transforms of Sampled Functions", 2012
 */
export function* squaredDistanceTo(
  mask: Uint8Array,
  width: number,
  height: number,
  nearest?: Int32Array,
): Work<Int32Array> {
  const out = new Int32Array(width * height);
  const atOnce = rowsAtOnce(width);
  const far = width + height; // more than any distance in the picture
  // Distance up the column, then the smaller of it and the distance down.
  for (let x = 0; x < width; x++) out[x] = mask[x] ? 0 : far;
  for (let y = 1, i = width; y < height; y++) {
    if (y % atOnce === 0) yield (0.2 * y) / height;
    for (let x = 0; x < width; x++, i++) out[i] = mask[i] ? 0 : out[i - width] + 1;
  }
  for (let y = height - 2; y >= 0; y--) {
    if (y % atOnce === 0) yield 0.2 + 0.2 * (1 - y / height);
    for (let i = y * width, end = i + width; i < end; i++) {
      const below = out[i + width] + 1;
      if (below < out[i]) out[i] = below;
    }
  }
  const site = new Int32Array(width); // column of each parabola on the envelope
  const square = new Float64Array(width); // its height at its own column
  const from = new Int32Array(width); // first column where it is lowest
  const column = new Int32Array(width);
  const envelopesAtOnce = rowsAtOnce(2 * width);
  for (let y = 0; y < height; y++) {
    if (y % envelopesAtOnce === 0) yield 0.4 + (0.6 * y) / height;
    const start = y * width;
    let top = -1;
    for (let u = 0; u < width; u++) {
      const g = out[start + u];
      column[u] = g;
      if (g >= far) continue;
      const gu = g * g;
      let begins = 0;
      while (top >= 0) {
        const s = site[top];
        // where the parabola of u falls below that of s, rounded down, plus one
        begins = Math.floor((u * u - s * s + gu - square[top]) / (2 * (u - s))) + 1;
        if (begins > from[top]) break;
        top--;
      }
      if (top < 0) begins = 0;
      if (begins >= width) continue;
      top++;
      site[top] = u;
      square[top] = gu;
      from[top] = begins;
    }
    if (top < 0) {
      out.fill(NOWHERE, start, start + width);
      nearest?.fill(-1, start, start + width);
      continue;
    }
    for (let k = top, end = width; k >= 0; k--) {
      const [s, g] = [site[k], square[k]];
      for (let x = from[k]; x < end; x++) {
        const d = (x - s) * (x - s) + g;
        out[start + x] = d > FARTHEST ? FARTHEST : d;
      }
      if (nearest) {
        const down = column[s];
        const below = y + down < height && mask[(y + down) * width + s] !== 0;
        nearest.fill((below ? y + down : y - down) * width + s, start + from[k], start + end);
      }
      end = from[k];
    }
  }
  return out;
}
