import { type Bits } from "./types";

const ONES = Uint8Array.from({ length: 256 }, (_, byte) => {
  let count = 0;
  for (let b = byte; b; b >>= 1) count += b & 1;
  return count;
});

/** Number of marks in the whole picture. */
export function countMarks(bits: Bits): number {
  let count = 0;
  for (let i = 0; i < bits.data.length; i++) count += ONES[bits.data[i]];
  return count;
}

/** Unpacks one row into bytes, 1 = mark. `out` holds at least `bits.width` bytes. */
export function unpackRow(bits: Bits, y: number, out: Uint8Array): void {
  const { width, stride, data } = bits;
  const start = y * stride;
  for (let x = 0; x < width; x++) out[x] = (data[start + (x >> 3)] >> (7 - (x & 7))) & 1;
}

/** Packs one row of bytes (0 or 1) into the picture. Padding bits stay zero. */
export function packRow(row: Uint8Array, bits: Bits, y: number): void {
  const { width, stride, data } = bits;
  const start = y * stride;
  const whole = width >> 3;
  for (let b = 0, x = 0; b < whole; b++, x += 8) {
    data[start + b] =
      (row[x] << 7) |
      (row[x + 1] << 6) |
      (row[x + 2] << 5) |
      (row[x + 3] << 4) |
      (row[x + 4] << 3) |
      (row[x + 5] << 2) |
      (row[x + 6] << 1) |
      row[x + 7];
  }
  if (width & 7) {
    let byte = 0;
    for (let x = whole << 3; x < width; x++) byte |= row[x] << (7 - (x & 7));
    data[start + whole] = byte;
  }
}
