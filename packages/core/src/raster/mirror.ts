import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow, packRow } from "./bits";
import { newBits, type Bits } from "./types";

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
