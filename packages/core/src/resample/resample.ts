import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { type Work } from "../maths/work";
import { newGray, newRgba, type Gray, type Rgba } from "../raster/types";
import { contributions, type Contributions, type FilterName } from "./filters";
import { acrossOne, filterDown } from "./passes";

/**
 * A grey picture at another size, filtered in linear light.
 *
 * @param width, height  of the result, in pixels, 1 or more
 */
export function* resampleGray(picture: Gray, width: number, height: number, filter: FilterName): Work<Gray> {
  if (width === picture.width && height === picture.height) return picture;
  const out = newGray(width, height);
  const across = contributions(picture.width, width, filter);
  const row = new Float64Array(width);
  const load = (y: number, into: Float64Array) => linearRow(picture, y, into);
  const rows = contributions(picture.height, height, filter);
  yield* filterDown(rows, picture.width, load, (y, column) => {
    acrossOne(column, across, row);
    for (let x = 0, o = y * width; x < width; x++, o++) out.data[o] = codeOf(row[x]);
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
  const row = new Float64Array(width * 4);
  const load = (y: number, into: Float64Array) => premultipliedRow(picture, y, into);
  const rows = contributions(picture.height, height, filter);
  yield* filterDown(rows, picture.width * 4, load, (y, column) => {
    acrossFour(column, across, row);
    straightRow(row, out, y);
  });
  return out;
}

const codeOf = (linear: number): number =>
  CODE_OF_LINEAR[(Math.min(1, Math.max(0, linear)) * CODE_STEPS + 0.5) | 0];

function linearRow({ width, data }: Gray, y: number, row: Float64Array): void {
  for (let x = 0, i = y * width; x < width; x++, i++) row[x] = LINEAR_OF_CODE[data[i]];
}

function premultipliedRow({ width, data }: Rgba, y: number, row: Float64Array): void {
  for (let x = 0, i = y * width * 4, o = 0; x < width; x++, i += 4, o += 4) {
    const alpha = data[i + 3] / 255;
    row[o] = LINEAR_OF_CODE[data[i]] * alpha;
    row[o + 1] = LINEAR_OF_CODE[data[i + 1]] * alpha;
    row[o + 2] = LINEAR_OF_CODE[data[i + 2]] * alpha;
    row[o + 3] = alpha;
  }
}

function straightRow(row: Float64Array, { width, data }: Rgba, y: number): void {
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

function acrossFour(input: Float64Array, { taps, first, weights }: Contributions, out: Float64Array): void {
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
