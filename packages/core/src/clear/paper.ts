import { type Work } from "../maths/work";
import { type Rgba } from "../raster/types";

export type Codes = readonly [number, number, number];

/** Rec. 709 luma, 0..1, of the pixel that starts at byte o. */
export const lumaAt = (data: Uint8Array, o: number): number =>
  (data[o] * 0.2126 + data[o + 1] * 0.7152 + data[o + 2] * 0.0722) / 255;

/** Where the light lies that falls on paper: one number 0..1 for each tile, 1 = as bright as the brightest. */
export interface Light {
  readonly columns: number;
  readonly rows: number;
  readonly share: Float64Array;
}

export const EVEN: Light = { columns: 1, rows: 1, share: Float64Array.of(1) };

const STEP_TARGET = 250000;

/** Every how manyth pixel of a row and of the rows is looked at, for about a quarter of a million samples. */
const stepOf = ({ width, height }: Rgba): number =>
  Math.max(1, Math.floor(Math.sqrt((width * height) / STEP_TARGET)));

/**
 * The paper's colour: the mean of the pixels about the most common lightness of the lighter half.
 * Clear pixels are not looked at.
 */
export function paperColour(picture: Rgba): Codes {
  const { width, height, data } = picture;
  const step = stepOf(picture);
  const counts = new Float64Array(256);
  const sums = [new Float64Array(256), new Float64Array(256), new Float64Array(256)];
  for (let y = step >> 1; y < height; y += step)
    for (let x = step >> 1; x < width; x += step) {
      const o = (y * width + x) * 4;
      if (data[o + 3] < 128) continue;
      const bin = Math.round(lumaAt(data, o) * 255);
      counts[bin]++;
      for (let k = 0; k < 3; k++) sums[k][bin] += data[o + k];
    }
  const [lo, hi] = [percentile(counts, 0.02), percentile(counts, 0.995)];
  const wide = (bin: number): number => {
    let sum = 0;
    for (let d = -3; d <= 3; d++) sum += counts[bin + d] ?? 0;
    return sum;
  };
  let peak = hi;
  for (let bin = Math.ceil((lo + hi) / 2); bin <= Math.min(255, hi + 1); bin++)
    if (wide(bin) >= wide(peak)) peak = bin;
  // Of a paper cut off at white only the whites themselves count.
  const reach = peak >= 252 ? 0 : 4;
  if (peak >= 252) for (let bin = 252; bin < 256; bin++) if (counts[bin] > counts[peak]) peak = bin;
  let count = 0;
  const mean = [0, 0, 0];
  for (let bin = peak - reach; bin <= Math.min(255, peak + reach); bin++) {
    count += counts[bin] ?? 0;
    for (let k = 0; k < 3; k++) mean[k] += sums[k][bin] ?? 0;
  }
  return count === 0 ? [255, 255, 255] : (mean.map((m) => Math.round(m / count)) as unknown as Codes);
}

/** The bin below which a share of all counts lies. */
export function percentile(counts: Float64Array, share: number): number {
  const total = counts.reduce((a, b) => a + b, 0);
  let sum = 0;
  for (let bin = 0; bin < counts.length; bin++) {
    sum += counts[bin];
    if (sum >= share * total && sum > 0) return bin;
  }
  return counts.length - 1;
}

const TILES = 60;

/**
 * How the light falls off over the paper: the upper lightness of each tile of a grid, dips that ink makes closed
 * (grey closing), then smoothed. Tiles are about a sixtieth of the longer side.
 * @see Serra, "Image Analysis and Mathematical Morphology", 1982
 */
export function* lightOn(picture: Rgba): Work<Light> {
  const { width, height, data } = picture;
  const tile = Math.max(4, Math.ceil(Math.max(width, height) / TILES));
  const [columns, rows] = [Math.ceil(width / tile), Math.ceil(height / tile)];
  const bright = new Float64Array(columns * rows);
  const step = Math.max(1, tile >> 4);
  for (let r = 0, t = 0; r < rows; r++) {
    yield r / rows;
    for (let c = 0; c < columns; c++, t++) {
      const counts = new Float64Array(256);
      for (let y = r * tile; y < Math.min(height, (r + 1) * tile); y += step)
        for (let x = c * tile; x < Math.min(width, (c + 1) * tile); x += step) {
          const o = (y * width + x) * 4;
          if (data[o + 3] >= 128) counts[Math.round(lumaAt(data, o) * 255)]++;
        }
      bright[t] = percentile(counts, 0.6) / 255;
    }
  }
  const closed = extreme(extreme(bright, columns, rows, 3, Math.max), columns, rows, 3, Math.min);
  let smooth: Float64Array = closed;
  for (let k = 0; k < 3; k++) smooth = smoothed(smooth, columns, rows);
  const most = smooth.reduce((a, b) => Math.max(a, b), 1 / 255);
  return { columns, rows, share: smooth.map((v) => Math.max(0.02, v / most)) };
}

function extreme(
  from: Float64Array,
  columns: number,
  rows: number,
  reach: number,
  better: (a: number, b: number) => number,
): Float64Array {
  return from.map((own, t) => {
    const [c, r] = [t % columns, Math.floor(t / columns)];
    let best = own;
    for (let y = Math.max(0, r - reach); y <= Math.min(rows - 1, r + reach); y++)
      for (let x = Math.max(0, c - reach); x <= Math.min(columns - 1, c + reach); x++)
        best = better(best, from[y * columns + x]);
    return best;
  });
}

function smoothed(from: Float64Array, columns: number, rows: number): Float64Array {
  return from.map((_, t) => {
    const [c, r] = [t % columns, Math.floor(t / columns)];
    let [sum, count] = [0, 0];
    for (let y = Math.max(0, r - 1); y <= Math.min(rows - 1, r + 1); y++)
      for (let x = Math.max(0, c - 1); x <= Math.min(columns - 1, c + 1); x++, count++)
        sum += from[y * columns + x];
    return sum / count;
  });
}

/** Writes the light on each pixel of row y: straight lines between the middles of tiles. */
export function lightRow(
  { columns, rows, share }: Light,
  width: number,
  height: number,
  y: number,
  row: Float64Array,
) {
  if (columns * rows === 1) return row.fill(share[0]);
  const v = Math.min(rows - 1, Math.max(0, ((y + 0.5) / height) * rows - 0.5));
  const r = Math.min(rows - 1, Math.floor(v));
  const below = Math.min(rows - 1, r + 1);
  const fv = v - r;
  for (let x = 0; x < width; x++) {
    const u = Math.min(columns - 1, Math.max(0, ((x + 0.5) / width) * columns - 0.5));
    const c = Math.min(columns - 1, Math.floor(u));
    const right = Math.min(columns - 1, c + 1);
    const fu = u - c;
    const top = share[r * columns + c] * (1 - fu) + share[r * columns + right] * fu;
    const foot = share[below * columns + c] * (1 - fu) + share[below * columns + right] * fu;
    row[x] = top * (1 - fv) + foot * fv;
  }
  return row;
}
