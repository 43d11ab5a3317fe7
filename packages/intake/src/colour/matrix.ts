/** Nine numbers, row by row. */
export type Matrix = readonly number[];
export type Chromaticity = readonly [x: number, y: number];

export interface Primaries {
  readonly white: Chromaticity;
  readonly red: Chromaticity;
  readonly green: Chromaticity;
  readonly blue: Chromaticity;
}

/** @see IEC 61966-2-1 */
export const SRGB_PRIMARIES: Primaries = {
  white: [0.3127, 0.329],
  red: [0.64, 0.33],
  green: [0.3, 0.6],
  blue: [0.15, 0.06],
};
/** Primaries by the number that files name them with; null for others. @see ITU-T H.273, table 2 */
export const primariesOf = (number: number): Primaries | null => BY_NUMBER[number] ?? null;

const BY_NUMBER: Readonly<Record<number, Primaries>> = {
  1: SRGB_PRIMARIES,
  9: { white: [0.3127, 0.329], red: [0.708, 0.292], green: [0.17, 0.797], blue: [0.131, 0.046] },
  12: { white: [0.3127, 0.329], red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06] },
};
/** The white that profiles connect by. @see ICC.1:2022, 7.2.16 */
const D50 = [0.9642, 1, 0.8249];
const BRADFORD = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];

/** Light of the primaries to light of sRGB, white to white. @see Lindbloom, "Chromatic Adaptation" */
export const primariesToSrgb = (from: Primaries): Matrix =>
  times(inverse(toD50(SRGB_PRIMARIES)), toD50(from));

/** XYZ under D50, as in a profile, to light of sRGB. */
export const d50ToSrgb = (): Matrix => inverse(toD50(SRGB_PRIMARIES));

export const times = (a: Matrix, b: Matrix): number[] =>
  a.map((_, k) => {
    const [row, column] = [k - (k % 3), k % 3];
    return a[row] * b[column] + a[row + 1] * b[column + 3] + a[row + 2] * b[column + 6];
  });

function toD50(primaries: Primaries): Matrix {
  const [from, to] = [apply(BRADFORD, xyz(primaries.white)), apply(BRADFORD, D50)];
  const scale = [to[0] / from[0], 0, 0, 0, to[1] / from[1], 0, 0, 0, to[2] / from[2]];
  return times(times(inverse(BRADFORD), times(scale, BRADFORD)), toXyz(primaries));
}

function toXyz({ white, red, green, blue }: Primaries): Matrix {
  const [r, g, b] = [xyz(red), xyz(green), xyz(blue)];
  const columns = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  const share = apply(inverse(columns), xyz(white));
  return columns.map((v, k) => v * share[k % 3]);
}

const xyz = ([x, y]: Chromaticity): readonly number[] => [x / y, 1, (1 - x - y) / y];

const apply = (m: Matrix, v: readonly number[]): number[] =>
  [0, 3, 6].map((k) => m[k] * v[0] + m[k + 1] * v[1] + m[k + 2] * v[2]);

function inverse([a, b, c, d, e, f, g, h, i]: Matrix): number[] {
  const cofactors = [
    ...[e * i - f * h, c * h - b * i, b * f - c * e],
    ...[f * g - d * i, a * i - c * g, c * d - a * f],
    ...[d * h - e * g, b * g - a * h, a * e - b * d],
  ];
  const determinant = a * cofactors[0] + b * cofactors[3] + c * cofactors[6];
  return cofactors.map((v) => v / determinant);
}
