import { expMinus, logOf } from "../maths/steady";
import { HEIGHT_MM, WIDTH_MM } from "./layout";

/** Light of bare material somewhere on the wedge, in mm from its top left. */
export interface BareSample {
  readonly x: number;
  readonly y: number;
  readonly light: number;
}

/** Terms of the third degree: a lamp near by is brighter below it than a surface of the second degree can follow. */
const termsAt = (x: number, y: number): number[] => {
  const [u, v] = [x / WIDTH_MM - 0.5, y / HEIGHT_MM - 0.5];
  return [1, u, v, u * u, u * v, v * v, u * u * u, u * u * v, u * v * v, v * v * v];
};

/**
 * How light falls on the bare material all over the wedge: a surface of the third degree through the logarithms of
 * samples, since light that falls off is a factor, by least squares.
 *
 * @param samples  of light above 0, more of them than terms
 */
export function bareLight(samples: readonly BareSample[]): (x: number, y: number) => number {
  const n = termsAt(0, 0).length;
  const rows = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const { x, y, light } of samples) {
    const t = termsAt(x, y);
    const log = logOf(Math.max(light, 1e-4));
    for (let r = 0; r < n; r++) {
      for (let c = 0; c < n; c++) rows[r][c] += t[r] * t[c];
      rows[r][n] += t[r] * log;
    }
  }
  for (let c = 0; c < n; c++) {
    const pivot = rows[c][c] || 1e-12;
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const by = rows[r][c] / pivot;
      for (let k = c; k <= n; k++) rows[r][k] -= by * rows[c][k];
    }
  }
  const weights = rows.map((row, k) => row[n] / (row[k] || 1e-12));
  return (x, y) => expMinus(-termsAt(x, y).reduce((sum, t, k) => sum + t * weights[k], 0));
}
