import { expMinus } from "../maths/steady";
import { rowsAtOnce, type Work } from "../maths/work";
import { newGray, type Cover, type Gray } from "../raster/types";
import { takeRoom, type Room } from "../simd/room";

/**
 * Unsharp masking: adds `amount` times the difference between the picture and its Gaussian blur.
 * Cleared pixels lend nothing to the blur, so art keeps its edge against them.
 *
 * @param sigma   standard deviation of the blur, in pixels, above 0; the kernel reaches three of them
 * @param amount  0 = unchanged, 1 = the difference once more; 5 at most
 */
export function* sharpen(picture: Gray, cover: Cover, sigma: number, amount: number): Work<Gray> {
  const { width, height, data } = picture;
  if (amount === 0) return picture;
  const kernel = gaussian(sigma);
  const reach = kernel.length >> 1;
  const out = newGray(width, height);
  const room = takeRoom(2 * (kernel.length + 4), width + 2 * reach);
  try {
    const value = blurredRows(room, picture, cover, kernel, false);
    const weight = cover ? blurredRows(room, picture, cover, kernel, true) : null;
    const blurred = room.row(width);
    const share = room.row(width);
    const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / (1 + reach / 16)));
    for (let y = 0; y < height; y++) {
      if (y % atOnce === 0) yield y / height;
      value(y, blurred);
      const [from, to] = [y * width, (y + 1) * width];
      const row = data.subarray(from, to);
      if (weight) {
        weight(y, share);
        for (let x = 0; x < width; x++) blurred[x] = share[x] > 0 ? blurred[x] / share[x] : row[x];
      }
      combine(row, blurred, amount, out.data.subarray(from, to));
    }
  } finally {
    room.free();
  }
  return out;
}

/** Codes for values from -`BELOW` on: looked up, what lies beyond black and white costs no wrong guess. */
const BELOW = 2048;
const CODES = Uint8Array.from({ length: 3 * BELOW }, (_, i) => Math.min(255, Math.max(0, i - BELOW)));

/** @param amount  5 at most, which keeps every value within the codes */
function combine(row: Uint8Array, soft: Float64Array, amount: number, out: Uint8Array): void {
  const width = row.length;
  for (let x = 0; x < width; x++) out[x] = CODES[(row[x] + amount * (row[x] - soft[x]) + (BELOW + 0.5)) | 0];
}

/** How many pixels a blur reaches to each side. */
export const reachOf = (sigma: number): number => Math.max(1, Math.ceil(3 * sigma));

/** 2 ceil(3 sigma) + 1 weights that add up to one. */
function gaussian(sigma: number): Float64Array {
  const reach = reachOf(sigma);
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, k) =>
    expMinus((k - reach) ** 2 / (2 * sigma * sigma)),
  );
  const sum = kernel.reduce((a, b) => a + b);
  return kernel.map((w) => w / sum);
}

/**
 * A function that gives row y of the blur; called with rising y it blurs every input row across only once.
 *
 * @param ones  blurs the art's own shape, every pixel of it counting one
 */
function blurredRows(room: Room, picture: Gray, cover: Cover, kernel: Float64Array, ones: boolean) {
  const { width, height, data } = picture;
  const reach = kernel.length >> 1;
  const rows = Array.from(kernel, () => room.row(width));
  const padded = room.row(width + 2 * reach);
  const shifted = Array.from(kernel, (_, k) => padded.subarray(k, k + width));
  const nothing = room.row(width);
  let made = 0;

  const make = (y: number): void => {
    const start = y * width;
    if (cover)
      for (let x = 0; x < width; x++)
        padded[x + reach] = cover[start + x] === 0 ? 0 : ones ? 1 : data[start + x];
    else padded.set(data.subarray(start, start + width), reach);
    padded.fill(cover ? 0 : padded[reach], 0, reach);
    padded.fill(cover ? 0 : padded[reach + width - 1], reach + width);
    room.sum(shifted, kernel, 0, rows[y % rows.length]);
  };
  const rowAt = (y: number): Float64Array =>
    y >= 0 && y < height
      ? rows[y % rows.length]
      : cover
        ? nothing
        : rows[(y < 0 ? 0 : height - 1) % rows.length];

  return (y: number, out: Float64Array): void => {
    for (; made <= Math.min(height - 1, y + reach); made++) make(made);
    room.sum(
      Array.from(kernel, (_, k) => rowAt(y - reach + k)),
      kernel,
      0,
      out,
    );
  };
}
