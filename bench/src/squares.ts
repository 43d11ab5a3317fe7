import { type Rgba } from "@hardline/core/raster/types";

/** Squares of the fixture: 20 mm each, the first crossing 50, 45 mm from the upper left of a paper of 200 x 150. */
const [PAPER, SIDE, FIRST, ACROSS, DOWN] = [[200, 150], 20, [50, 45], 6, 4] as const;
/** Pixels about a crossing that are looked at. */
const ABOUT = 4;

/** By how many pixels the crossings of a board of squares lie off where they are on the paper, at most. */
export function squaresOff({ width, height, data }: Rgba): number {
  let most = 0;
  for (let r = 0; r < DOWN; r++)
    for (let c = 0; c < ACROSS; c++) {
      const x = ((FIRST[0] + SIDE * c) / PAPER[0]) * width;
      const y = ((FIRST[1] + SIDE * r) / PAPER[1]) * height;
      const [dx, dy] = saddle(x, y, (px, py) => data[(py * width + px) * 4 + 1]);
      most = Math.max(most, Math.hypot(dx, dy));
    }
  return most;
}

/**
 * Where a crossing of four squares lies, off a place: the saddle of a surface of second degree over it, again and again
 * about where it was found. @see Lucchese & Mitra, "Using saddle points for subpixel feature detection", APCCAS 2002
 */
function saddle(x: number, y: number, grey: (x: number, y: number) => number): [number, number] {
  let [cx, cy] = [x, y];
  for (let round = 0; round < 4; round++) {
    const [ix, iy] = [Math.floor(cx), Math.floor(cy)];
    const rows: number[][] = [];
    const values: number[] = [];
    for (let v = -ABOUT; v <= ABOUT; v++)
      for (let u = -ABOUT; u <= ABOUT; u++) {
        const [px, py] = [ix + u + 0.5 - cx, iy + v + 0.5 - cy];
        rows.push([px * px, px * py, py * py, px, py, 1]);
        values.push(grey(ix + u, iy + v));
      }
    const [a, b, c, d, e] = leastSquares(rows, values);
    const by = 4 * a * c - b * b;
    if (by >= 0) break; // no saddle
    cx += Math.max(-2, Math.min(2, (b * e - 2 * c * d) / by));
    cy += Math.max(-2, Math.min(2, (b * d - 2 * a * e) / by));
  }
  return [cx - x, cy - y];
}

function leastSquares(rows: readonly number[][], values: readonly number[]): number[] {
  const n = rows[0].length;
  const m = Array.from({ length: n }, (_, i) => [
    ...Array.from({ length: n }, (_, j) => rows.reduce((sum, row) => sum + row[i] * row[j], 0)),
    rows.reduce((sum, row, k) => sum + row[i] * values[k], 0),
  ]);
  for (let i = 0; i < n; i++) {
    const lead = m[i][i] || 1e-12;
    for (let k = i; k <= n; k++) m[i][k] /= lead;
    for (let j = 0; j < n; j++) {
      if (j === i) continue;
      const by = m[j][i];
      for (let k = i; k <= n; k++) m[j][k] -= by * m[i][k];
    }
  }
  return m.map((row) => row[n]);
}
