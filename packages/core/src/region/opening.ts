import { workSlice, rowsAtOnce, type Work } from "../maths/work";

/**
 * Morphological opening by a square, in place: keeps the set pixels that a `side` x `side` square of set pixels
 * covers somewhere.
 *
 * Works on 32 pixels at once, packed into words. Erosion by `side` along one direction is the AND of `side` shifted
 * copies, dilation the OR; each is built by doubling, so the cost grows with the logarithm of the side.
 *
 * @param mask  width x height bytes, 0 or 1; replaced by the result
 * @param side  in pixels, 1 or more
 * @see Serra, "Image Analysis and Mathematical Morphology", 1982
 * @see van den Boomgaard & van Balen, "Methods for Fast Morphological Image Transforms Using Bitmapped Binary
 *      Images", CVGIP 54, 1992
 */
export function* openBySquare(mask: Uint8Array, width: number, height: number, side: number): Work<void> {
  if (side <= 1) return;
  const rowAt = (y: number, row: Uint8Array) => row.set(mask.subarray(y * width, (y + 1) * width));
  const opened = yield* workSlice(openedRows(rowAt, width, height, side), 0, 0.7);
  const atOnce = 4 * rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.7 + (0.3 * y) / height;
    opened(y, mask.subarray(y * width, (y + 1) * width));
  }
}

/** Writes a row of a picture into bytes, 0 or 1. */
export type RowAt = (y: number, row: Uint8Array) => void;

/** The same of rows that are asked for one by one: no more is held than a bit for each pixel. */
export function* openedRows(rowAt: RowAt, width: number, height: number, side: number): Work<RowAt> {
  if (side <= 1) return rowAt;
  const stride = (width + 31) >> 5;
  const words = new Int32Array(stride * height);
  const bytes = new Uint8Array(width);
  const atOnce = 4 * rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.8 * y) / height;
    rowAt(y, bytes);
    const row = words.subarray(y * stride, (y + 1) * stride);
    pack(bytes, 0, width, row);
    for (const step of steps(side)) andFromLeft(row, step);
  }
  // A pixel set after erosion is the last (right, bottom) pixel of a square that fits.
  for (const step of steps(side)) {
    yield 0.8;
    for (let i = words.length - 1, from = i - step * stride; i >= 0; i--, from--)
      words[i] &= from >= 0 ? words[from] : 0;
  }
  // Each grows back over the square it stands for: `side` pixels to the left and up.
  for (const step of steps(side)) {
    yield 0.9;
    for (let i = 0, from = step * stride; from < words.length; i++, from++) words[i] |= words[from];
  }
  const row = new Int32Array(stride);
  return (y, out) => {
    row.set(words.subarray(y * stride, (y + 1) * stride));
    for (const step of steps(side)) orFromRight(row, step);
    unpack(row, out, 0, width);
  };
}

/** Shifts that make `side` copies of one: 1, 2, 4 ... and what is left. */
function steps(side: number): number[] {
  const out: number[] = [];
  for (let have = 1; have < side; have += out[out.length - 1]) out.push(Math.min(have, side - have));
  return out;
}

/** Pixel x is bit x mod 32 of word x / 32, so a shift to the right in the picture is one to the left in the word. */
function pack(mask: Uint8Array, start: number, width: number, row: Int32Array): void {
  const whole = width >> 5;
  let i = start;
  for (let w = 0; w < whole; w++, i += 32) {
    let word = 0;
    for (let k = 0; k < 32; k += 8)
      word |=
        (mask[i + k] |
          (mask[i + k + 1] << 1) |
          (mask[i + k + 2] << 2) |
          (mask[i + k + 3] << 3) |
          (mask[i + k + 4] << 4) |
          (mask[i + k + 5] << 5) |
          (mask[i + k + 6] << 6) |
          (mask[i + k + 7] << 7)) <<
        k;
    row[w] = word;
  }
  for (let x = whole << 5; x < width; x++) row[whole] |= mask[start + x] << (x & 31);
}

function unpack(row: Int32Array, mask: Uint8Array, start: number, width: number): void {
  const whole = width >> 5;
  let i = start;
  for (let w = 0; w < whole; w++, i += 32) {
    const word = row[w];
    if (word === 0 || word === -1) {
      mask.fill(word & 1, i, i + 32);
      continue;
    }
    for (let k = 0; k < 32; k++) mask[i + k] = (word >>> k) & 1;
  }
  for (let x = whole << 5; x < width; x++) mask[start + x] = (row[x >> 5] >>> (x & 31)) & 1;
}

/** Each pixel and the one `step` to its left; nothing lies left of the picture. */
function andFromLeft(row: Int32Array, step: number): void {
  const [words, bits] = [step >> 5, step & 31];
  for (let w = row.length - 1; w >= 0; w--) {
    const near = w - words >= 0 ? row[w - words] : 0;
    const far = w - words - 1 >= 0 ? row[w - words - 1] : 0;
    row[w] &= bits === 0 ? near : (near << bits) | (far >>> (32 - bits));
  }
}

/** Each pixel or the one `step` to its right. */
function orFromRight(row: Int32Array, step: number): void {
  const [words, bits] = [step >> 5, step & 31];
  for (let w = 0; w < row.length; w++) {
    const near = w + words < row.length ? row[w + words] : 0;
    const far = w + words + 1 < row.length ? row[w + words + 1] : 0;
    row[w] |= bits === 0 ? near : (near >>> bits) | (far << (32 - bits));
  }
}
