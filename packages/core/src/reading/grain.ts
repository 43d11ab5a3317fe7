import { type Gray } from "../raster/types";

/**
 * Noise of a picture: standard deviation in code values, from a mask that shading and straight edges do not move,
 * over the quieter half of the picture.
 * @see Immerkaer, "Fast Noise Variance Estimation", Computer Vision and Image Understanding 64, 1996
 */
export function noiseOf(parts: readonly Gray[]): number {
  const counts = new Float64Array(2048);
  let total = 0;
  for (const { width, height, data } of parts)
    for (let y = 1; y + 1 < height; y++)
      for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
        const v =
          data[i - width - 1] -
          2 * data[i - width] +
          data[i - width + 1] -
          2 * data[i - 1] +
          4 * data[i] -
          2 * data[i + 1] +
          data[i + width - 1] -
          2 * data[i + width] +
          data[i + width + 1];
        counts[Math.min(2047, Math.abs(v))]++;
        total++;
      }
  if (total === 0) return 0;
  // The median of a normal variate's size is 0.6745 of its deviation; the mask makes the deviation six times the noise.
  let sum = 0;
  for (let bin = 0; bin < counts.length; bin++) {
    if (sum + counts[bin] >= total / 2) {
      const within = counts[bin] === 0 ? 0 : (total / 2 - sum) / counts[bin];
      return bin === 0 ? (within * 0.5) / (0.6745 * 6) : (bin - 0.5 + within) / (0.6745 * 6);
    }
    sum += counts[bin];
  }
  return 0;
}

/**
 * How much larger the steps across the borders of 8 x 8 blocks are than the other steps, in percent: 0 in
 * a picture that never was a JPEG, some tens in a poor one. The block grid may lie anywhere.
 * @see Wang, Sheikh & Bovik, "No-Reference Perceptual Quality Assessment of JPEG Compressed Images", ICIP 2002
 */
export function blockinessOf(parts: readonly Gray[]): number {
  let most = 0;
  for (const part of parts) most = Math.max(most, Math.min(gridStep(part, true), gridStep(part, false)));
  return Math.max(0, most);
}

function gridStep({ width, height, data }: Gray, across: boolean): number {
  const sums = new Float64Array(8);
  const counts = new Float64Array(8);
  const step = across ? 1 : width;
  for (let y = 1; y + 2 < height; y++)
    for (let x = 1; x + 2 < width; x++) {
      const i = y * width + x;
      // the step's own excess over its neighbours, so that shading and edges do not count
      const own = Math.abs(data[i + step] - data[i]);
      const beside = (Math.abs(data[i] - data[i - step]) + Math.abs(data[i + 2 * step] - data[i + step])) / 2;
      if (own > 40) continue;
      const phase = (across ? x : y) & 7;
      sums[phase] += own - beside;
      counts[phase]++;
    }
  const means = Array.from(sums, (s, k) => (counts[k] ? s / counts[k] : 0));
  const sorted = [...means].sort((a, b) => a - b);
  const median = (sorted[3] + sorted[4]) / 2;
  return 100 * (sorted[7] - Math.max(sorted[6], median));
}
