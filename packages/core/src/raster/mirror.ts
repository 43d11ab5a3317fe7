import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow, packRow } from "./bits";
import { newBits, newGray, newRgba, type Bits, type Gray, type Rgba } from "./types";

/** Dots as they are seen from behind: left is right. */
export function* mirroredBits(bits: Bits): Work<Bits> {
  const { width, height } = bits;
  const out = newBits(width, height);
  const row = new Uint8Array(width);
  const atOnce = Math.max(1, rowsAtOnce(width) >> 1);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    unpackRow(bits, y, row);
    row.reverse();
    packRow(row, out, y);
  }
  return out;
}

/** A plane seen from behind. */
export function* mirroredGray({ width, height, data }: Gray): Work<Gray> {
  const out = newGray(width, height);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const row = data.slice(y * width, (y + 1) * width).reverse();
    out.data.set(row, y * width);
  }
  return out;
}

/** A picture seen from behind. */
export function* mirroredRgba({ width, height, data }: Rgba): Work<Rgba> {
  const out = newRgba(width, height);
  const from = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const to = new Uint32Array(out.data.buffer);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    to.set(from.slice(y * width, (y + 1) * width).reverse(), y * width);
  }
  return out;
}
