import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { type Gray } from "../raster/types";

/* Rows of code values as rows of linear light, and back. */

const codeOf = (linear: number): number =>
  CODE_OF_LINEAR[((linear < 0 ? 0 : linear > 1 ? 1 : linear) * CODE_STEPS + 0.5) | 0];

export function codesInto(row: Float64Array, out: Uint8Array): void {
  const width = out.length;
  for (let x = 0; x < width; x++) out[x] = codeOf(row[x]);
}

export function linearRow({ width, data }: Gray, y: number, row: Float64Array): void {
  for (let x = 0, i = y * width; x < width; x++, i++) row[x] = LINEAR_OF_CODE[data[i]];
}

/** Of a picture without transparency only the colours are filtered. */
export function wholeRow(data: Uint8Array, row: Float64Array): void {
  for (let i = 0, o = 0; i < data.length; i += 4, o += 3) {
    row[o] = LINEAR_OF_CODE[data[i]];
    row[o + 1] = LINEAR_OF_CODE[data[i + 1]];
    row[o + 2] = LINEAR_OF_CODE[data[i + 2]];
  }
}

export function codedRow(row: Float64Array, out: Uint8Array): void {
  for (let i = 0, o = 0; o < out.length; i += 3, o += 4) {
    out[o] = codeOf(row[i]);
    out[o + 1] = codeOf(row[i + 1]);
    out[o + 2] = codeOf(row[i + 2]);
    out[o + 3] = 255;
  }
}

const SHARE_OF_ALPHA = Float64Array.from({ length: 256 }, (_, a) => a / 255);

export function premultipliedRow(data: Uint8Array, row: Float64Array): void {
  for (let i = 0, o = 0; i < data.length; i += 4, o += 4) {
    const alpha = SHARE_OF_ALPHA[data[i + 3]];
    row[o] = LINEAR_OF_CODE[data[i]] * alpha;
    row[o + 1] = LINEAR_OF_CODE[data[i + 1]] * alpha;
    row[o + 2] = LINEAR_OF_CODE[data[i + 2]] * alpha;
    row[o + 3] = alpha;
  }
}

export function straightRow(row: Float64Array, out: Uint8Array): void {
  for (let o = 0; o < out.length; o += 4) {
    // Where the filter overshoots, alpha and colour overshoot alike, so the colour is divided by all of it.
    const alpha = row[o + 3];
    out[o + 3] = (alpha < 0 ? 0 : alpha > 1 ? 1 : alpha) * 255 + 0.5;
    if (out[o + 3] === 0) continue;
    out[o] = codeOf(row[o] / alpha);
    out[o + 1] = codeOf(row[o + 1] / alpha);
    out[o + 2] = codeOf(row[o + 2] / alpha);
  }
}
