import { type Work } from "../maths/work";
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

/** Pixels between two slices. */
const AT_ONCE = 1 << 21;

/** Every grey value replaced through a table of 256. Two pixels are looked up at once in a table of pairs. */
export function* applyTable(picture: Gray, table: Uint8Array): Work<Gray> {
  const out = newGray(picture.width, picture.height);
  const from = picture.data;
  if ((from.byteOffset & 1) === 0) {
    const pairs = pairTable(table);
    const [wide, to] = [pairsOf(from), pairsOf(out.data)];
    for (let at = 0; at < to.length; at += AT_ONCE >> 1) {
      yield at / to.length;
      replacePairs(wide.subarray(at, at + (AT_ONCE >> 1)), pairs, to.subarray(at, at + (AT_ONCE >> 1)));
    }
    if (from.length & 1) out.data[from.length - 1] = table[from[from.length - 1]];
  } else {
    for (let i = 0; i < from.length; i++) {
      if (i % AT_ONCE === 0) yield i / from.length;
      out.data[i] = table[from[i]];
    }
  }
  return out;
}

const pairsOf = (data: Uint8Array): Uint16Array =>
  new Uint16Array(data.buffer, data.byteOffset, data.length >> 1);

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
