import { type Bits } from "../raster/types";

/** A stretch of marks in a row: from dot `from` up to, not with, dot `to`. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** The stretches of marks in one row, from left to right. */
export function stretchesOf(bits: Bits, row: number): Stretch[] {
  const { width, stride, data } = bits;
  const found: Stretch[] = [];
  const start = row * stride;
  let from = -1;
  for (let x = 0; x < width;) {
    const byte = data[start + (x >> 3)];
    // Eight at once where they are alike.
    if ((x & 7) === 0 && x + 8 <= width && (byte === 0 || byte === 255)) {
      if (byte === 255 && from < 0) from = x;
      if (byte === 0 && from >= 0) {
        found.push({ from, to: x });
        from = -1;
      }
      x += 8;
      continue;
    }
    const marked = (byte >> (7 - (x & 7))) & 1;
    if (marked && from < 0) from = x;
    if (!marked && from >= 0) {
      found.push({ from, to: x });
      from = -1;
    }
    x++;
  }
  if (from >= 0) found.push({ from, to: width });
  return found;
}
