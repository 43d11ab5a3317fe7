import { newGray, type Gray } from "../raster/types";
import { curveThrough, type CurvePoint } from "./curve";

export interface Levels {
  /** Share of full white, 0..1, that becomes black. */
  readonly black: number;
  /** Share of full white, 0..1, that becomes white; above `black`. */
  readonly white: number;
  readonly curve: readonly CurvePoint[];
}

/** The 256 grey values that levels and then the curve turn 0..255 into, rounded. */
export function toneTable({ black, white, curve }: Levels): Uint8Array {
  const curveAt = curveThrough(curve);
  return Uint8Array.from({ length: 256 }, (_, g) => {
    const t = Math.min(1, Math.max(0, (g / 255 - black) / (white - black)));
    return Math.round(255 * Math.min(1, Math.max(0, curveAt(t))));
  });
}

/** Every grey value replaced through a table of 256. Two pixels are looked up at once in a table of pairs. */
export function applyTable(picture: Gray, table: Uint8Array): Gray {
  const out = newGray(picture.width, picture.height);
  const from = picture.data;
  const pairs = from.length >> 1;
  if ((from.byteOffset & 1) === 0) {
    const wide = new Uint16Array(from.buffer, from.byteOffset, pairs);
    replacePairs(wide, pairTable(table), new Uint16Array(out.data.buffer, 0, pairs));
    if (from.length & 1) out.data[from.length - 1] = table[from[from.length - 1]];
  } else {
    for (let i = 0; i < from.length; i++) out.data[i] = table[from[i]];
  }
  return out;
}

function pairTable(table: Uint8Array): Uint16Array {
  const pairs = new Uint16Array(65536);
  for (let high = 0, i = 0; high < 256; high++) {
    const top = table[high] << 8;
    for (let low = 0; low < 256; low++, i++) pairs[i] = top | table[low];
  }
  return pairs;
}

function replacePairs(from: Uint16Array, table: Uint16Array, to: Uint16Array): void {
  const count = to.length;
  for (let i = 0; i < count; i++) to[i] = table[from[i]];
}
