import { expMinus } from "../maths/steady";
import { weightedSum } from "../maths/rows";
import { rowsAtOnce, type Work } from "../maths/work";
import { newGray, type Cover, type Gray } from "../raster/types";

/**
 * Unsharp masking: adds `amount` times the difference between the picture and its Gaussian blur.
 * Cleared pixels lend nothing to the blur, so art keeps its edge against them.
 *
 * @param sigma   standard deviation of the blur, in pixels, above 0; the kernel reaches three of them
 * @param amount  0 = unchanged, 1 = the difference once more
 */
export function* sharpen(picture: Gray, cover: Cover, sigma: number, amount: number): Work<Gray> {
  const { width, height, data } = picture;
  if (amount === 0) return picture;
  const kernel = gaussian(sigma);
  const reach = kernel.length >> 1;
  const out = newGray(width, height);
  const value = blurredRows(picture, cover, kernel, (i) => data[i]);
  const weight = cover ? blurredRows(picture, cover, kernel, () => 1) : null;
  const blurred = new Float64Array(width);
  const share = new Float64Array(width);
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / (1 + reach / 4)));
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    value(y, blurred);
    weight?.(y, share);
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const soft = weight === null ? blurred[x] : share[x] > 0 ? blurred[x] / share[x] : data[i];
      const v = data[i] + amount * (data[i] - soft) + 0.5;
      out.data[i] = v < 0 ? 0 : v > 255 ? 255 : v;
    }
  }
  return out;
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

/** A function that gives row y of the blur; called with rising y it blurs every input row across only once. */
function blurredRows(picture: Gray, cover: Cover, kernel: Float64Array, at: (index: number) => number) {
  const { width, height } = picture;
  const reach = kernel.length >> 1;
  const rows = Array.from({ length: kernel.length }, () => new Float64Array(width));
  const padded = new Float64Array(width + 2 * reach);
  const shifted = Array.from(kernel, (_, k) => padded.subarray(k, k + width));
  const nothing = new Float64Array(width);
  const kernelRows = (first: number, row: (y: number) => Float64Array) =>
    Array.from(kernel, (_, k) => row(first + k));
  let made = 0;

  const make = (y: number): void => {
    const start = y * width;
    for (let x = 0; x < width; x++) padded[x + reach] = cover && cover[start + x] === 0 ? 0 : at(start + x);
    padded.fill(cover ? 0 : padded[reach], 0, reach);
    padded.fill(cover ? 0 : padded[reach + width - 1], reach + width);
    weightedSum(shifted, kernel, 0, rows[y % rows.length]);
  };

  return (y: number, out: Float64Array): void => {
    for (; made <= Math.min(height - 1, y + reach); made++) make(made);
    const around = kernelRows(y - reach, (from) =>
      from >= 0 && from < height
        ? rows[from % rows.length]
        : cover
          ? nothing
          : rows[(from < 0 ? 0 : height - 1) % rows.length],
    );
    weightedSum(around, kernel, 0, out);
  };
}
