import { logOf } from "../../maths/steady";

/** One cloud of colours: where it is, how wide (inverse covariance) and what it costs to be of it at all. */
interface Cloud {
  readonly mean: Float64Array;
  /** Upper triangle of the inverse covariance: 00 01 02 11 12 22. */
  readonly inverse: Float64Array;
  readonly cost: number;
}

export type ColourModel = readonly Cloud[];

// Thresholds: what they decide is measured by `npm run scenes`.

/** Clouds of colour a side, and rounds of k-means that place them: five clouds are usual, one more for a rim. */
const CLOUDS = 6;
const ROUNDS = 8;
/** Least variance of a cloud, in squared units of OKLab times 100. */
const FLOOR = 2;

/**
 * A mixture of Gaussians of some pixels' colours, each pixel with its nearest cloud.
 *
 * @param lab     three numbers a pixel
 * @param pixels  indices; at least one
 * @see Rother, Kolmogorov & Blake, "GrabCut", SIGGRAPH 2004
 * @see Arthur & Vassilvitskii, "k-means++", 2007 (here the farthest point instead of a random one)
 */
export function colourModel(lab: Float32Array, pixels: readonly number[]): ColourModel {
  const step = Math.max(1, Math.floor(pixels.length / 3000));
  const sample = pixels.filter((_, k) => k % step === 0);
  const centres: Float64Array[] = [Float64Array.from(lab.subarray(sample[0] * 3, sample[0] * 3 + 3))];
  const least = new Float64Array(sample.length).fill(Infinity);
  while (centres.length < Math.min(CLOUDS, sample.length)) {
    const last = centres[centres.length - 1];
    let far = 0;
    sample.forEach((i, k) => {
      least[k] = Math.min(least[k], squareTo(lab, i, last));
      if (least[k] > least[far]) far = k;
    });
    if (least[far] < 4) break;
    centres.push(Float64Array.from(lab.subarray(sample[far] * 3, sample[far] * 3 + 3)));
  }
  const owner = new Uint8Array(sample.length);
  for (let round = 0; round < ROUNDS; round++) {
    sample.forEach((i, k) => {
      let best = Infinity;
      centres.forEach((c, n) => {
        const d = squareTo(lab, i, c);
        if (d < best) {
          best = d;
          owner[k] = n;
        }
      });
    });
    centres.forEach((c, n) => {
      const sum = [0, 0, 0];
      let count = 0;
      sample.forEach((i, k) => {
        if (owner[k] !== n) return;
        count++;
        for (let a = 0; a < 3; a++) sum[a] += lab[i * 3 + a];
      });
      if (count > 0) for (let a = 0; a < 3; a++) c[a] = sum[a] / count;
    });
  }
  return centres
    .map((mean, n) =>
      cloudOf(
        lab,
        mean,
        sample.filter((_, k) => owner[k] === n),
        sample.length,
      ),
    )
    .filter((c) => c !== null);
}

function squareTo(lab: Float32Array, i: number, c: Float64Array): number {
  const [x, y, z] = [lab[i * 3] - c[0], lab[i * 3 + 1] - c[1], lab[i * 3 + 2] - c[2]];
  return x * x + y * y + z * z;
}

function cloudOf(lab: Float32Array, mean: Float64Array, own: readonly number[], total: number): Cloud | null {
  if (own.length === 0) return null;
  const c = [FLOOR, 0, 0, FLOOR, 0, FLOOR];
  for (const i of own) {
    const [x, y, z] = [lab[i * 3] - mean[0], lab[i * 3 + 1] - mean[1], lab[i * 3 + 2] - mean[2]];
    [x * x, x * y, x * z, y * y, y * z, z * z].forEach((v, k) => (c[k] += v / own.length));
  }
  const [a, b, d, e, f, g] = c;
  const [A, B, D] = [e * g - f * f, d * f - b * g, b * f - d * e];
  const volume = a * A + b * B + d * D;
  const inverse = Float64Array.of(A, B, D, a * g - d * d, b * d - a * f, a * e - b * b).map(
    (v) => v / volume,
  );
  return { mean, inverse, cost: 0.5 * logOf(volume) - logOf(own.length / total) };
}

/** What it costs (minus logarithm of the likelihood) that the pixel at 3 i is of the model. */
export function costOf(model: ColourModel, lab: Float32Array, i: number): number {
  let best = Infinity;
  for (const { mean, inverse: m, cost } of model) {
    const [x, y, z] = [lab[i * 3] - mean[0], lab[i * 3 + 1] - mean[1], lab[i * 3 + 2] - mean[2]];
    const d =
      cost + 0.5 * (m[0] * x * x + m[3] * y * y + m[5] * z * z) + m[1] * x * y + m[2] * x * z + m[4] * y * z;
    if (d < best) best = d;
  }
  return best;
}

/** Squared distance of a colour from the model's nearest cloud, in the cloud's own spread. */
export function strangeness(model: ColourModel, l: number, a: number, b: number): number {
  let best = Infinity;
  for (const { mean, inverse: m } of model) {
    const [x, y, z] = [l - mean[0], a - mean[1], b - mean[2]];
    const d = m[0] * x * x + m[3] * y * y + m[5] * z * z + 2 * (m[1] * x * y + m[2] * x * z + m[4] * y * z);
    if (d < best) best = d;
  }
  return best;
}
