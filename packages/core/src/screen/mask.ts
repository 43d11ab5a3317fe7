import { rowsAtOnce, type Work } from "../maths/work";
import { newBits, type Bits, type Gray } from "../raster/types";

/**
 * Thresholds that repeat over the plane: a brick of rows, laid side by side without end, each course moved along by
 * `shift` against the one above it.
 * @see Holladay, "An Optimum Algorithm for Halftone Generation for Displays and Hard Copies", Proc. SID 21, 1980
 */
export interface Mask {
  readonly width: number;
  readonly height: number;
  readonly shift: number;
  /** 1..255; a pixel is marked when its grey is below. */
  readonly thresholds: Uint8Array;
}

/** Each pixel against the threshold of its place. @param top  rows of the whole that lie above this part of it */
export function* markByMask({ width, height, data }: Gray, mask: Mask, top = 0): Work<Bits> {
  const rowAt = (y: number): Uint8Array => data.subarray(y * width, (y + 1) * width);
  return yield* markRows(width, height, rowAt, mask, top, 2 * rowsAtOnce(width));
}

/** As `markByMask`, from rows as they are asked for, first to last. @param atOnce  rows of one slice */
export function* markRows(
  width: number,
  height: number,
  rowAt: (y: number) => Uint8Array,
  mask: Mask,
  top: number,
  atOnce: number,
): Work<Bits> {
  const bits = newBits(width, height);
  const wide = widened(mask);
  const row = new Uint8Array(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    loadThresholds(wide, top + y, row);
    markRowBelow(rowAt(y), row, bits.data.subarray(y * bits.stride));
  }
  return bits;
}

/** Rows shorter than this are written out several times over, so that a picture's row takes few copies. */
const LEAST_ROW = 2048;

function widened(mask: Mask): Mask & { readonly period: number } {
  const times = Math.max(1, Math.ceil(LEAST_ROW / mask.width));
  const { width: period, height } = mask;
  const width = period * times;
  const thresholds = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let k = 0; k < times; k++)
      thresholds.set(mask.thresholds.subarray(y * period, (y + 1) * period), y * width + k * period);
  return { ...mask, width, thresholds, period };
}

function loadThresholds(
  { width, height, shift, thresholds, period }: ReturnType<typeof widened>,
  y: number,
  row: Uint8Array,
): void {
  const course = Math.floor(y / height);
  const start = (y - course * height) * width;
  let from = (((-course * shift) % period) + period) % period;
  for (let x = 0; x < row.length;) {
    const some = Math.min(width - from, row.length - x);
    row.set(thresholds.subarray(start + from, start + from + some), x);
    x += some;
    from = 0;
  }
}

/** The sign of grey minus threshold is the mark: no branch, eight pixels to a byte. */
function markRowBelow(g: Uint8Array, t: Uint8Array, out: Uint8Array): void {
  const width = g.length;
  const whole = width >> 3;
  for (let b = 0, i = 0; b < whole; b++, i += 8) {
    out[b] =
      (((g[i] - t[i]) >>> 31) << 7) |
      (((g[i + 1] - t[i + 1]) >>> 31) << 6) |
      (((g[i + 2] - t[i + 2]) >>> 31) << 5) |
      (((g[i + 3] - t[i + 3]) >>> 31) << 4) |
      (((g[i + 4] - t[i + 4]) >>> 31) << 3) |
      (((g[i + 5] - t[i + 5]) >>> 31) << 2) |
      (((g[i + 6] - t[i + 6]) >>> 31) << 1) |
      ((g[i + 7] - t[i + 7]) >>> 31);
  }
  for (let x = whole << 3; x < width; x++) out[whole] |= ((g[x] - t[x]) >>> 31) << (7 - (x & 7));
}

/**
 * Thresholds from an order of marking, so that the share marked is linear in grey: of `count` pixels, as many are
 * marked as come nearest to (255 - g) / 255 of them.
 * @param order  groups of pixels that are marked together, first to last
 */
export function thresholdsOf(order: readonly (readonly number[])[], count: number): Uint8Array {
  const thresholds = new Uint8Array(count);
  let before = 0;
  for (const group of order) {
    const share = (before + group.length / 2) / count;
    const threshold = Math.min(255, Math.max(1, Math.ceil(255 * (1 - share))));
    for (const at of group) thresholds[at] = threshold;
    before += group.length;
  }
  return thresholds;
}
