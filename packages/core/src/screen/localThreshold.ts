import { rowsAtOnce, type Work } from "../maths/work";
import { newBits, type Bits, type Cover, type Gray } from "../raster/types";

export interface LocalThreshold {
  /** Side of the square around each pixel whose grey is looked at, in dots; odd. */
  readonly window: number;
  /** How far the threshold lies below the mean where the grey is even, 0..1. */
  readonly k: number;
}

/** Half of the range of grey, the greatest standard deviation there can be. */
const R = 128;
/** Rows whose squares still add up within 32 bits: eight inches at four thousand dots an inch. */
const MOST_ROWS = 32001;

/**
 * Marks what is darker than its own surroundings: below m (1 + k (s / R - 1)), with the mean m and the standard
 * deviation s of the grey in a window around each pixel. Only pixels of the art count; at the picture's edge the window
 * is what of it lies inside. Sums slide along columns and rows, so the cost does not depend on the window.
 *
 * @param picture  grey 0..255
 * @param cover    zero = outside the art, where nothing is marked
 * @see Sauvola & Pietikäinen, "Adaptive document image binarization", Pattern Recognition 33, 2000
 */
export function* localThreshold(picture: Gray, cover: Cover, { window, k }: LocalThreshold): Work<Bits> {
  const { width, height } = picture;
  const bits = newBits(width, height);
  const half = Math.min(window >> 1, width + height, MOST_ROWS >> 1);
  const columns = {
    sum: new Int32Array(width),
    square: new Int32Array(width),
    count: new Int32Array(width),
  };
  const over = new Float64Array(width);
  const none = new Uint8Array(width);
  const rowAt = (plane: Uint8Array, y: number) =>
    y >= 0 && y < height ? plane.subarray(y * width, (y + 1) * width) : none;
  const artAt = (y: number) => (cover ? rowAt(cover, y) : null);
  const atOnce = Math.max(1, rowsAtOnce(width) >> 2);
  for (let y = 0; y < Math.min(half, height); y++)
    moveColumns(columns, rowAt(picture.data, y), artAt(y), none, none, width);
  // Where all columns count alike, those that come into the window whole are moved on as they come.
  const inner = !cover && width > 2 * half + 1 ? 2 * half + 1 : width;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const [comes, goes] = [rowAt(picture.data, y + half), rowAt(picture.data, y - half - 1)];
    moveColumns(columns, comes, artAt(y + half), goes, artAt(y - half - 1), inner);
    if (!cover) columns.count.fill(Math.min(height - 1, y + half) - Math.max(0, y - half) + 1);
    markRow(rowAt(picture.data, y), columns, half, k, inner < width ? { comes, goes } : null, over);
    if (cover) for (let x = 0, i = y * width; x < width; x++, i++) if (cover[i] === 0) over[x] = 0;
    packBelowZero(over, bits.data.subarray(y * bits.stride));
  }
  return bits;
}

/** Of each column what lies in the window; sums of whole numbers, so that sliding them loses nothing. */
interface Columns {
  readonly sum: Int32Array;
  readonly square: Int32Array;
  readonly count: Int32Array;
}

/**
 * One row comes into the window of the first `end` columns and one leaves it.
 * @param comesIn, goesIn  which of their pixels are art; null = all
 */
function moveColumns(
  { sum, square, count }: Columns,
  comes: Uint8Array,
  comesIn: Uint8Array | null,
  goes: Uint8Array,
  goesIn: Uint8Array | null,
  end: number,
): void {
  for (let x = 0; x < end; x++) {
    const a = comesIn?.[x] === 0 ? 0 : comes[x];
    const b = goesIn?.[x] === 0 ? 0 : goes[x];
    sum[x] += a - b;
    square[x] += (a - b) * (a + b);
    if (comesIn) count[x] += +(comesIn[x] !== 0);
    if (goesIn) count[x] -= +(goesIn[x] !== 0);
  }
}

/** What comes and goes in the columns that are still to be moved on. */
interface Moving {
  readonly comes: Uint8Array;
  readonly goes: Uint8Array;
}

/** One row: how far each pixel lies over its threshold, negative where it is marked. */
function markRow(
  row: Uint8Array,
  columns: Columns,
  half: number,
  k: number,
  moving: Moving | null,
  over: Float64Array,
): void {
  const { sum, square, count } = columns;
  const width = row.length;
  let [s, q, n] = [0, 0, 0];
  for (let x = 0; x < Math.min(half, width); x++) {
    s += sum[x];
    q += square[x];
    n += count[x];
  }
  for (let x = 0; x < width; x++) {
    if (moving && x === half + 1) {
      // From here to the other edge the window is whole.
      markInner(row, columns, half, n, k, s, q, moving, over);
      x = width - half;
      [s, q] = [0, 0];
      for (let c = x - 1 - half; c < width; c++) {
        s += sum[c];
        q += square[c];
      }
      if (x >= width) break;
    }
    if (x + half < width) {
      s += sum[x + half];
      q += square[x + half];
      n += count[x + half];
    }
    if (x > half) {
      s -= sum[x - half - 1];
      q -= square[x - half - 1];
      n -= count[x - half - 1];
    }
    over[x] = excess(row[x], s, q, n, 1 - k, k / (R * n));
  }
}

/**
 * Has the sign of g - m (1 + k (deviation / R - 1)), with sums s of n greys and q of their squares: both sides times n,
 * and without the root, by comparing squares that keep their sign.
 */
function excess(g: number, s: number, q: number, n: number, less: number, spread: number): number {
  const a = g * n - s * less;
  return a * Math.abs(a) - spread * spread * (s * s) * (n * q - s * s);
}

function markInner(
  row: Uint8Array,
  { sum, square }: Columns,
  half: number,
  n: number,
  k: number,
  s: number,
  q: number,
  { comes, goes }: Moving,
  over: Float64Array,
): void {
  const [less, spread] = [1 - k, k / (R * n)];
  const factor = spread * spread;
  const width = row.length;
  for (let x = half + 1, ahead = 2 * half + 1, behind = 0; ahead < width; x++, ahead++, behind++) {
    const c = comes[ahead];
    const g = goes[ahead];
    const columnSum = (sum[ahead] + (c - g)) | 0;
    const columnSquare = (square[ahead] + Math.imul(c - g, c + g)) | 0;
    sum[ahead] = columnSum;
    square[ahead] = columnSquare;
    s += (columnSum - sum[behind]) | 0;
    q += (columnSquare - square[behind]) | 0;
    const a = row[x] * n - s * less;
    over[x] = a * Math.abs(a) - factor * (s * s) * (n * q - s * s);
  }
}

/** The sign bit, of the upper half of each number, is the mark: a processor need not guess which way it falls. */
function packBelowZero(values: Float64Array, out: Uint8Array): void {
  const halves = new Uint32Array(values.buffer);
  const whole = values.length >> 3;
  for (let b = 0, i = 1; b < whole; b++, i += 16) {
    out[b] =
      ((halves[i] >>> 31) << 7) |
      ((halves[i + 2] >>> 31) << 6) |
      ((halves[i + 4] >>> 31) << 5) |
      ((halves[i + 6] >>> 31) << 4) |
      ((halves[i + 8] >>> 31) << 3) |
      ((halves[i + 10] >>> 31) << 2) |
      ((halves[i + 12] >>> 31) << 1) |
      (halves[i + 14] >>> 31);
  }
  for (let x = whole << 3; x < values.length; x++) out[whole] |= (halves[2 * x + 1] >>> 31) << (7 - (x & 7));
}
