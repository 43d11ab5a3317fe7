import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { rowsAtOnce, type Work } from "../maths/work";
import { newGray, newRgba, type Gray, type Rgba } from "../raster/types";
import { contributions, type Contributions, type FilterName } from "./filters";

/**
 * A grey picture at another size, filtered in linear light.
 *
 * @param width, height  of the result, in pixels, 1 or more
 */
export function* resampleGray(picture: Gray, width: number, height: number, filter: FilterName): Work<Gray> {
  if (width === picture.width && height === picture.height) return picture;
  const out = newGray(width, height);
  const across = contributions(picture.width, width, filter);
  const linear = new Float32Array(picture.width);
  const rows = rowSource(picture.height, width, (y, row) => {
    const start = y * picture.width;
    for (let x = 0; x < picture.width; x++) linear[x] = LINEAR_OF_CODE[picture.data[start + x]];
    acrossOne(linear, across, row);
  });
  yield* down(rows, picture.height, height, width, filter, (y, sum) => {
    const start = y * width;
    for (let x = 0; x < width; x++) out.data[start + x] = codeOf(sum[x]);
  });
  return out;
}

/**
 * A colour picture at another size, filtered in linear light on premultiplied colour, so that what lies
 * under clear pixels never bleeds into the art.
 *
 * @param width, height  of the result, in pixels, 1 or more
 */
export function* resampleRgba(picture: Rgba, width: number, height: number, filter: FilterName): Work<Rgba> {
  if (width === picture.width && height === picture.height) return picture;
  const out = newRgba(width, height);
  const across = contributions(picture.width, width, filter);
  const linear = new Float32Array(picture.width * 4);
  const rows = rowSource(picture.height, width * 4, (y, row) => {
    premultipliedRow(picture, y, linear);
    acrossFour(linear, across, row);
  });
  yield* down(rows, picture.height, height, width * 4, filter, (y, sum) => straightRow(sum, out, y));
  return out;
}

const codeOf = (linear: number): number => CODE_OF_LINEAR[Math.min(1, Math.max(0, linear)) * CODE_STEPS + 0.5 | 0];

function premultipliedRow({ width, data }: Rgba, y: number, row: Float32Array): void {
  for (let x = 0, i = y * width * 4, o = 0; x < width; x++, i += 4, o += 4) {
    const alpha = data[i + 3] / 255;
    row[o] = LINEAR_OF_CODE[data[i]] * alpha;
    row[o + 1] = LINEAR_OF_CODE[data[i + 1]] * alpha;
    row[o + 2] = LINEAR_OF_CODE[data[i + 2]] * alpha;
    row[o + 3] = alpha;
  }
}

function straightRow(row: Float32Array, { width, data }: Rgba, y: number): void {
  for (let x = 0, i = 0, o = y * width * 4; x < width; x++, i += 4, o += 4) {
    // Where the filter overshoots, alpha and colour overshoot alike, so the colour is divided by all of it.
    const alpha = row[i + 3];
    data[o + 3] = Math.min(1, Math.max(0, alpha)) * 255 + 0.5;
    if (data[o + 3] === 0) continue;
    data[o] = codeOf(row[i] / alpha);
    data[o + 1] = codeOf(row[i + 1] / alpha);
    data[o + 2] = codeOf(row[i + 2] / alpha);
  }
}

function acrossOne(input: Float32Array, { taps, first, weights }: Contributions, out: Float32Array): void {
  for (let o = 0, w = 0; o < out.length; o++) {
    let i = first[o];
    let sum = 0;
    for (const end = w + taps; w < end; w++, i++) sum += input[i] * weights[w];
    out[o] = sum;
  }
}

function acrossFour(input: Float32Array, { taps, first, weights }: Contributions, out: Float32Array): void {
  for (let o = 0, w = 0; o < out.length; o += 4) {
    let i = first[o >> 2] * 4;
    let c0 = 0;
    let c1 = 0;
    let c2 = 0;
    let c3 = 0;
    for (const end = w + taps; w < end; w++, i += 4) {
      const weight = weights[w];
      c0 += input[i] * weight;
      c1 += input[i + 1] * weight;
      c2 += input[i + 2] * weight;
      c3 += input[i + 3] * weight;
    }
    out[o] = c0;
    out[o + 1] = c1;
    out[o + 2] = c2;
    out[o + 3] = c3;
  }
}

/** Input rows already resampled across, made when first asked for and kept as long as they may be needed. */
interface RowSource {
  readonly rows: (first: number, count: number) => Float32Array[];
}

function rowSource(height: number, length: number, make: (y: number, row: Float32Array) => void): RowSource {
  const kept = new Map<number, Float32Array>();
  const spare: Float32Array[] = [];
  return {
    rows(first, count) {
      for (const [y, row] of kept) {
        if (y >= first) break;
        kept.delete(y);
        spare.push(row);
      }
      return Array.from({ length: count }, (_, k) => {
        const y = Math.min(height - 1, first + k);
        let row = kept.get(y);
        if (!row) {
          row = spare.pop() ?? new Float32Array(length);
          make(y, row);
          kept.set(y, row);
        }
        return row;
      });
    },
  };
}

function* down(
  source: RowSource,
  inputHeight: number,
  height: number,
  length: number,
  filter: FilterName,
  emit: (y: number, sum: Float32Array) => void,
): Work<void> {
  const { taps, first, weights } = contributions(inputHeight, height, filter);
  const sum = new Float32Array(length);
  const atOnce = Math.max(1, rowsAtOnce(length) >> 2);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const rows = source.rows(first[y], taps);
    sum.fill(0);
    let t = 0;
    for (; t + 2 < taps; t += 3) {
      const w = y * taps + t;
      addThree(sum, rows[t], weights[w], rows[t + 1], weights[w + 1], rows[t + 2], weights[w + 2]);
    }
    for (; t < taps; t++) addThree(sum, rows[t], weights[y * taps + t], rows[t], 0, rows[t], 0);
    emit(y, sum);
  }
}

function addThree(
  sum: Float32Array,
  a: Float32Array,
  wa: number,
  b: Float32Array,
  wb: number,
  c: Float32Array,
  wc: number,
): void {
  for (let x = 0; x < sum.length; x++) sum[x] += a[x] * wa + b[x] * wb + c[x] * wc;
}
