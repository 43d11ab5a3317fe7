import { sinPi } from "../maths/steady";

/** A resampling filter: its weight at a distance (in pixels of the coarser picture) and how far it reaches. */
export interface Filter {
  readonly reach: number;
  readonly weight: (distance: number) => number;
}

const sinc = (x: number): number => (x === 0 ? 1 : sinPi(x) / (Math.PI * x));

/** @see Duchon, "Lanczos Filtering in One and Two Dimensions", J. Appl. Meteorology 18, 1979 */
const lanczos3: Filter = {
  reach: 3,
  weight: (x) => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0),
};

/** @see Keys, "Cubic Convolution Interpolation for Digital Image Processing", IEEE Trans. ASSP 29, 1981 (a = -1/2) */
const bicubic: Filter = {
  reach: 2,
  weight: (signed) => {
    const x = Math.abs(signed);
    if (x < 1) return (1.5 * x - 2.5) * x * x + 1;
    if (x < 2) return ((-0.5 * x + 2.5) * x - 4) * x + 2;
    return 0;
  },
};

export const FILTERS = { lanczos3, bicubic } as const;
export type FilterName = keyof typeof FILTERS | "box";

/** For each output pixel: the first input pixel it takes from, and `taps` weights that add up to one. */
export interface Contributions {
  readonly taps: number;
  readonly first: Int32Array;
  readonly weights: Float64Array;
}

/**
 * Which input pixels make each output pixel along one axis. When the picture gets smaller the filter is
 * widened to cover the output pixel. Pixels beyond the edge are left out and the rest scaled up to one.
 */
export function contributions(inputSize: number, outputSize: number, name: FilterName): Contributions {
  const scale = inputSize / outputSize;
  const wide = Math.max(1, scale);
  const filter = name === "box" ? null : FILTERS[name];
  const reach = filter ? filter.reach * wide : wide / 2;
  // A filter weighs pixel centres; the box weighs how much of each pixel it covers, which is one pixel more.
  const taps = Math.min(inputSize, Math.ceil(2 * reach) + (filter ? 0 : 1));
  return gathered(outputSize, taps, (o) => {
    const centre = (o + 0.5) * scale;
    const start = Math.min(
      inputSize - taps,
      Math.max(0, filter ? Math.ceil(centre - reach - 0.5) : Math.floor(centre - reach)),
    );
    const weight = filter
      ? (i: number) => filter.weight((i + 0.5 - centre) / wide)
      : (i: number) => Math.max(0, Math.min(i + 1, centre + reach) - Math.max(i, centre - reach));
    return { start, weight };
  });
}

/** Contributions from a rule that says for each output pixel where its taps start and what each weighs. */
export function gathered(
  outputSize: number,
  taps: number,
  rule: (o: number) => { start: number; weight: (i: number) => number },
): Contributions {
  const first = new Int32Array(outputSize);
  const weights = new Float64Array(outputSize * taps);
  for (let o = 0; o < outputSize; o++) {
    const { start, weight } = rule(o);
    first[o] = start;
    let sum = 0;
    for (let t = 0; t < taps; t++) sum += weights[o * taps + t] = weight(start + t);
    for (let t = 0; t < taps; t++) weights[o * taps + t] /= sum;
  }
  return { taps, first, weights };
}
