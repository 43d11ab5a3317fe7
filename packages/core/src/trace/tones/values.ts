import { inStretches, workSlice, type Work } from "../../maths/work";
import { type Gray, type Rgba } from "../../raster/types";

/** A picture as numbers of one or three channels, and the flat values that it is parted into; the first is the ground. */
export interface Parted {
  readonly width: number;
  readonly height: number;
  readonly channels: 1 | 3;
  readonly data: Uint8Array;
  readonly centres: readonly (readonly number[])[];
}

/** Rounds in which groups of grey find their middles; they rest long before. */
const ROUNDS = 60;

/**
 * Grey parted into so many tones besides the ground, which is the lightest: each pixel's grey is off from its group's mean
 * by as little as can be. Darkest first after the ground.
 *
 * @see Lloyd, "Least squares quantization in PCM", IEEE Trans. Inf. Theory 28, 1982
 */
export function* greyTones(gray: Gray, count: number): Work<Parted> {
  const histogram = new Float64Array(256);
  yield* workSlice(
    inStretches(gray.data.length, (from, to) => {
      for (let i = from; i < to; i++) histogram[gray.data[i]]++;
    }),
    0,
    0.9,
  );
  // Edges hold every grey between two tones; what only they have is no tone.
  const peaks = histogram.map((n) => Math.max(0, n - gray.data.length / 2000));
  const used = peaks.some((n) => n > 0) ? peaks : histogram;
  const low = used.findIndex((n) => n > 0);
  const high = used.findLastIndex((n) => n > 0);
  let means = Array.from({ length: count + 1 }, (_, k) => low + ((high - low) * k) / Math.max(1, count));
  for (let round = 0; round < ROUNDS; round++) {
    const [sums, numbers] = [means.map(() => 0), means.map(() => 0)];
    for (let g = 0; g < 256; g++) {
      let nearest = 0;
      for (let k = 1; k < means.length; k++)
        if (Math.abs(means[k] - g) < Math.abs(means[nearest] - g)) nearest = k;
      sums[nearest] += g * used[g];
      numbers[nearest] += used[g];
    }
    const next = means.map((m, k) => (numbers[k] > 0 ? sums[k] / numbers[k] : m));
    if (next.every((m, k) => m === means[k])) break;
    means = next;
  }
  const centres = [means[count], ...means.slice(0, count)].map((m) => [m]);
  return { width: gray.width, height: gray.height, channels: 1, data: gray.data, centres };
}

/** Colour parted into given ones; white is the ground, and what is clear. Colours are 0xrrggbb. */
export function* colourTones({ width, height, data }: Rgba, colours: readonly number[]): Work<Parted> {
  const out = new Uint8Array(3 * width * height);
  yield* inStretches(width * height, (from, to) => {
    for (let i = from; i < to; i++) {
      const alpha = data[4 * i + 3] / 255;
      for (let c = 0; c < 3; c++) out[3 * i + c] = Math.round(255 + (data[4 * i + c] - 255) * alpha);
    }
  });
  const centres = [0xffffff, ...colours].map((c) => [c >> 16, (c >> 8) & 255, c & 255]);
  return { width, height, channels: 3, data: out, centres };
}

/** Squared distance of a pixel from a flat value. */
export function off({ channels, data }: Parted, i: number, centre: readonly number[]): number {
  let sum = 0;
  for (let c = 0; c < channels; c++) {
    const d = data[channels * i + c] - centre[c];
    sum += d * d;
  }
  return sum;
}

/** How much of a pixel is the first of two flat values, when it is a mixture of both: 0..1. */
export function shareOf({ channels, data, centres }: Parted, i: number, a: number, b: number): number {
  let [along, whole] = [0, 0];
  for (let c = 0; c < channels; c++) {
    const span = centres[a][c] - centres[b][c];
    along += (data[channels * i + c] - centres[b][c]) * span;
    whole += span * span;
  }
  return whole > 0 ? Math.max(0, Math.min(1, along / whole)) : 0.5;
}
