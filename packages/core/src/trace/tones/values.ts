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

/**
 * Grey parted into so many tones besides the ground, which is the lightest: each pixel's grey is off from its group's mean
 * by as little as can be. Darkest first after the ground. Where there are fewer greys than tones, the tones left over have
 * no pixel.
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
  const means = groupMeans(used, count + 1);
  const ground = means[means.length - 1];
  const left = Array.from({ length: count + 1 - means.length }, () => ground);
  const centres = [ground, ...means.slice(0, -1), ...left].map((m) => [m]);
  return { width: gray.width, height: gray.height, channels: 1, data: gray.data, centres };
}

/**
 * Means of at most so many groups of numbers that lie next to each other, least first: the parting with the least sum of
 * squares off. Going from group to group in turns (Lloyd's rounds) can end with one that has nothing, and two tones in
 * another.
 *
 * @param counts  how often each number occurs
 * @see Fisher, "On grouping for maximum homogeneity", J. Am. Stat. Assoc. 53, 1958
 */
function groupMeans(counts: Float64Array, most: number): number[] {
  const values = [...counts.keys()].filter((v) => counts[v] > 0);
  const groups = Math.min(most, values.length);
  // Sums of counts, numbers and squares up to before each value: a stretch's squares off come from their differences.
  const upTo = [0, 1, 2].map((power) => {
    let sum = 0;
    return [0, ...values.map((v) => (sum += counts[v] * v ** power))];
  });
  const over = (power: number, from: number, to: number): number => upTo[power][to] - upTo[power][from];
  const squares = (from: number, to: number): number =>
    over(2, from, to) - over(1, from, to) ** 2 / over(0, from, to);
  let least = values.map((_, k) => squares(0, k + 1));
  const begins = [values.map(() => 0)];
  for (let g = 1; g < groups; g++) {
    const [next, begin] = [values.map(() => Infinity), values.map(() => 0)];
    for (let to = g; to < values.length; to++)
      for (let from = g; from <= to; from++) {
        const sum = least[from - 1] + squares(from, to + 1);
        if (sum < next[to]) [next[to], begin[to]] = [sum, from];
      }
    least = next;
    begins.push(begin);
  }
  const means: number[] = [];
  for (let g = groups - 1, to = values.length; g >= 0; g--) {
    const from = begins[g][to - 1];
    means.unshift(over(1, from, to) / over(0, from, to));
    to = from;
  }
  return means;
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
