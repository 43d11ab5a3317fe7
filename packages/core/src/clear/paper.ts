import { percentile } from "../maths/percentile";
import { workSlice, type Work } from "../maths/work";
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

// Thresholds: what they decide is measured by `npm run lifts`.

/** Pixels that the light is read from: every so many rows and columns, so that a scan of 50 million takes no longer. */
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

/** Tiles along the longer side. A shadow of a hand is wider than two of them; a letter is not. */
const TILES = 60;
/** Paper in a tile differs from what its neighbours have by no more than so much; ink and pencil differ by more. */
const NEAR = 0.09;
/** A tile with less paper than this takes its light from its neighbours. */
const LEAST_PAPER = 0.12;
/** From a tile to one beside it, into a shadow, it may differ by so much: `npm run lifts shaded`. */
const FRONT = 0.2;
/** Codes about the paper's own peak that are of it: its grain. */
const PEAK = 6;
/** Rounds of smoothing between tiles, and of leaving out what is no paper; both have settled by then. */
const ROUNDS = 14;
const CLIMBS = 10;
/** Fewer tiles do not carry a surface. */
const LEAST_TILES = 12;

/**
 * How the light falls off over the paper, in tiles of about a sixtieth of the longer side. First one smooth fall over
 * the whole sheet, which dark parts of any size do not pull down; then, round after round, each tile's own paper,
 * looked for near what its neighbours say. So a shadow is followed (`followed`), and a solid shape is not taken for one.
 *
 * @param follows  front by front into shadows as well; in a small copy of a drawing hatching looks like one
 */
export function* lightOn(picture: Rgba, follows = true): Work<Light> {
  const { width, height, data } = picture;
  const tile = Math.max(4, Math.ceil(Math.max(width, height) / TILES));
  const [columns, rows] = [Math.ceil(width / tile), Math.ceil(height / tile)];
  const counts = new Uint16Array(columns * rows * 256);
  const solid = new Float64Array(columns * rows);
  const step = Math.max(1, tile >> 4);
  for (let r = 0, t = 0; r < rows; r++) {
    yield (0.7 * r) / rows;
    for (let c = 0; c < columns; c++, t++)
      for (let y = r * tile; y < Math.min(height, (r + 1) * tile); y += step)
        for (let x = c * tile; x < Math.min(width, (c + 1) * tile); x += step) {
          const o = (y * width + x) * 4;
          if (data[o + 3] < 128) continue;
          counts[t * 256 + Math.round(lumaAt(data, o) * 255)]++;
          solid[t]++;
        }
  }
  const tiles: PaperTile[] = [];
  for (let t = 0; t < solid.length; t++) {
    if (solid[t] < 8) continue;
    const own = counts.subarray(t * 256, (t + 1) * 256);
    const [u, v] = [((t % columns) + 0.5) / columns - 0.5, (Math.floor(t / columns) + 0.5) / rows - 0.5];
    tiles.push({ u, v, bright: percentile(own, 0.8) / 255 });
  }
  const surface = fallOf(tiles, NEAR);
  let light = Float64Array.from(solid, (_, t) =>
    levelAt(surface, ((t % columns) + 0.5) / columns - 0.5, (Math.floor(t / columns) + 0.5) / rows - 0.5),
  );
  if (follows) light = yield* workSlice(followed(light, counts, solid, columns, rows), 0.7, 0.8);
  const known = new Float64Array(solid.length);
  const ratio = new Float64Array(solid.length);
  for (let round = 0; round < ROUNDS; round++) {
    yield 0.8 + (0.2 * round) / ROUNDS;
    for (let t = 0; t < solid.length; t++) {
      const found = paperIn(counts.subarray(t * 256, (t + 1) * 256), light[t], solid[t]);
      known[t] = found === null ? 0 : 1;
      ratio[t] = found === null ? 0 : found / light[t];
    }
    const weight = blurred(known, columns, rows);
    const sum = blurred(ratio, columns, rows);
    light = light.map((level, t) => (weight[t] > 1e-3 ? (level * sum[t]) / weight[t] : level));
  }
  const most = light.reduce((a, b) => Math.max(a, b), 1 / 255);
  return { columns, rows, share: light.map((v) => Math.max(0.02, v / most)) };
}

/**
 * From tiles whose paper lies on the fall of light, front by front into those whose paper does not: each is looked for
 * near what its known neighbours have. So a hand's shadow is followed from its rim into its core, which rounds of
 * smoothing do not reach. A solid shape begins at once, and is not entered.
 */
function* followed(
  fall: Float64Array,
  counts: Uint16Array,
  solid: Float64Array,
  columns: number,
  rows: number,
): Work<Float64Array<ArrayBuffer>> {
  const light = new Float64Array(fall.length).fill(NaN);
  const own = (t: number) => counts.subarray(t * 256, (t + 1) * 256);
  let front: number[] = [];
  for (let t = 0; t < light.length; t++) {
    const found = paperIn(own(t), fall[t], solid[t]);
    if (found === null) continue;
    light[t] = found;
    front.push(t);
  }
  for (let round = 0; front.length > 0 && round < columns + rows; round++) {
    yield round / (columns + rows);
    const beside = new Set<number>();
    for (const t of front)
      for (const n of around(t, columns, rows)) if (Number.isNaN(light[n])) beside.add(n);
    const next: [number, number][] = [];
    for (const t of beside) {
      const known = around(t, columns, rows).filter((n) => !Number.isNaN(light[n]));
      const expected = known.reduce((sum, n) => sum + light[n], 0) / known.length;
      const found = paperIn(own(t), expected, solid[t], FRONT);
      if (found !== null) next.push([t, found]);
    }
    for (const [t, found] of next) light[t] = found;
    front = next.map(([t]) => t);
  }
  return light.map((level, t) => (Number.isNaN(level) ? fall[t] : level));
}

/** The eight tiles around one, as far as there are. */
function around(t: number, columns: number, rows: number): number[] {
  const [c, r] = [t % columns, Math.floor(t / columns)];
  const list: number[] = [];
  for (let v = Math.max(0, r - 1); v <= Math.min(rows - 1, r + 1); v++)
    for (let u = Math.max(0, c - 1); u <= Math.min(columns - 1, c + 1); u++)
      if (u !== c || v !== r) list.push(v * columns + u);
  return list;
}

/** Lightness 0..1 of a tile's paper, near what is expected of it; null where there is too little. */
function paperIn(counts: Uint16Array, expected: number, solid: number, within = NEAR): number | null {
  const [low, high] = [expected * (1 - within) * 255, Math.min(255, expected * (1 + within) * 255)];
  let [peak, most, near] = [-1, 0, 0];
  for (let bin = Math.ceil(low); bin <= high; bin++) {
    near += counts[bin];
    let about = 0;
    for (let d = -2; d <= 2; d++) about += counts[bin + d] ?? 0;
    if (about >= most) [peak, most] = [bin, about];
  }
  if (solid < 8 || near < LEAST_PAPER * solid || most === 0) return null;
  let [sum, count] = [0, 0];
  for (let bin = Math.max(0, peak - PEAK); bin <= Math.min(255, peak + PEAK); bin++) {
    sum += bin * counts[bin];
    count += counts[bin];
  }
  return sum / count / 255;
}

/** Means over about three tiles, heaviest in the middle: a binomial of five each way. */
function blurred(from: Float64Array, columns: number, rows: number): Float64Array {
  const weights = [1, 4, 6, 4, 1];
  const pass = (source: Float64Array, step: number, length: number, place: (t: number) => number) =>
    source.map((_, t) => {
      let sum = 0;
      for (let d = -2; d <= 2; d++) {
        const at = place(t) + d;
        if (at >= 0 && at < length) sum += weights[d + 2] * source[t + d * step];
      }
      return sum / 16;
    });
  const across = pass(from, 1, columns, (t) => t % columns);
  return pass(across, columns, rows, (t) => Math.floor(t / columns));
}

export interface PaperTile {
  /** Of its middle, -0.5..0.5. */
  readonly u: number;
  readonly v: number;
  /** Lightness 0..1 of its brighter part. */
  readonly bright: number;
}

/**
 * One fall of light over a sheet: a surface of second degree, least squares over the tiles again and again. Tiles
 * below it are left out first, as ink only darkens: so it climbs to the paper, however little of that there is. At
 * last those far above are left out as well.
 */
export function fallOf(tiles: readonly PaperTile[], near: number): readonly number[] {
  let used = tiles;
  let surface = fitted(used);
  for (let round = 0; round < CLIMBS + 3; round++) {
    const top = round < CLIMBS ? Infinity : 1 + 2 * near;
    const kept = tiles.filter((t) => {
      const level = levelAt(surface, t.u, t.v);
      return t.bright > level * (1 - near) && t.bright < level * top;
    });
    if (kept.length < LEAST_TILES) break;
    used = kept;
    surface = fitted(used);
  }
  return surface;
}

const terms = (u: number, v: number): number[] => [1, u, v, u * u, u * v, v * v];

export const levelAt = (surface: readonly number[], u: number, v: number): number =>
  Math.max(
    0.01,
    terms(u, v).reduce((sum, t, k) => sum + t * (surface[k] ?? 0), 0),
  );

/** Least squares by the normal equations and Gauss's elimination. */
function fitted(tiles: readonly PaperTile[]): number[] {
  const n = 6;
  const rows = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const { u, v, bright } of tiles) {
    const t = terms(u, v);
    for (let a = 0; a < n; a++) {
      for (let b = 0; b < n; b++) rows[a][b] += t[a] * t[b];
      rows[a][n] += t[a] * bright;
    }
  }
  for (let a = 0; a < n; a++) rows[a][a] += 1e-6;
  for (let a = 0; a < n; a++) {
    const lead = rows[a][a];
    for (let b = a; b <= n; b++) rows[a][b] /= lead;
    for (let c = 0; c < n; c++) {
      if (c === a) continue;
      const times = rows[c][a];
      for (let b = a; b <= n; b++) rows[c][b] -= times * rows[a][b];
    }
  }
  return rows.map((row) => row[n]);
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
