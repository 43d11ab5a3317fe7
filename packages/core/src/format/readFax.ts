import { rowsAtOnce, type Work } from "../maths/work";
import { newBits, type Bits } from "../raster/types";
import { BLACK_LONG, BLACK_SHORT, EXTRA_LONG, WHITE_LONG, WHITE_SHORT } from "./faxCodes";
import { FormatError } from "./formatError";

/** No code word is longer, in bits. */
const LONGEST = 13;
const [PASS, HORIZONTAL, END, VERTICAL] = [100, 101, 102, 0];

/** For whatever LONGEST bits may come next: the length of the word they begin with, above bit 16, and what it says; 0 for none. */
function tableOf(words: readonly (readonly [word: string, says: number])[]): Int32Array {
  const table = new Int32Array(1 << LONGEST);
  for (const [word, says] of words) {
    const free = LONGEST - word.length;
    const first = parseInt(word, 2) << free;
    // What it says may be below zero: kept with 2^15 added.
    table.fill((word.length << 16) | (says + 0x8000), first, first + (1 << free));
  }
  return table;
}

const MODES = tableOf([
  ["0001", PASS],
  ["001", HORIZONTAL],
  ["000000000001", END],
  ...["0000010", "000010", "010", "1", "011", "000011", "0000011"].map(
    (word, k) => [word, VERTICAL + k - 3] as const,
  ),
]);
const runs = (short: readonly string[], long: readonly string[]): Int32Array =>
  tableOf([
    ...short.map((word, k) => [word, k] as const),
    ...long.map((word, k) => [word, 64 * (k + 1)] as const),
    ...EXTRA_LONG.map((word, k) => [word, 1792 + 64 * k] as const),
  ]);
/** Of white runs, and of black ones. */
const RUNS = [runs(WHITE_SHORT, WHITE_LONG), runs(BLACK_SHORT, BLACK_LONG)];

/**
 * Reads Group 4 facsimile code: what `encodeGroup4` writes. Marks are the black runs.
 * @throws FormatError where it is no such code, or ends too early
 * @see ITU-T Recommendation T.6
 */
export function* decodeGroup4(code: Uint8Array, width: number, height: number): Work<Bits> {
  const bits = newBits(width, height);
  const reader = new BitReader(code);
  // Where the colour changes along a row that starts white, with the width as a stop; an imaginary white row comes first.
  let above = new Int32Array(width + 4).fill(width);
  let changes = new Int32Array(width + 4);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const count = decodeRow(reader, above, changes, width, y);
    for (let k = 0; k < count; k += 2)
      mark(bits.data, y * bits.stride, changes[k], k + 1 < count ? changes[k + 1] : width);
    changes.fill(width, count, count + 4);
    [above, changes] = [changes, above];
  }
  return bits;
}

function decodeRow(
  reader: BitReader,
  above: Int32Array,
  changes: Int32Array,
  width: number,
  y: number,
): number {
  let [a0, colour, count, b] = [-1, 0, 0, 0];
  const put = (at: number): void => {
    if (at < Math.max(0, a0) || at > width)
      throw new FormatError(`row ${y + 1} of the facsimile code is not true`);
    if (at < width) changes[count++] = at;
    a0 = at;
  };
  while (a0 < width) {
    while (b > 0 && above[b - 1] > a0) b--;
    while (above[b] <= a0 && above[b] < width) b++;
    if (above[b] < width && (b & 1) !== colour) b++;
    const mode = reader.next(MODES);
    if (mode === END) throw new FormatError(`the facsimile code ends in row ${y + 1}`);
    if (mode === PASS) a0 = above[b] < width ? above[b + 1] : width;
    else if (mode === HORIZONTAL) {
      const from = Math.max(0, a0);
      const first = from + reader.run(RUNS[colour]);
      put(first);
      put(first + reader.run(RUNS[colour ^ 1]));
    } else {
      put(above[b] + mode);
      colour ^= 1;
    }
  }
  return count;
}

function mark(data: Uint8Array, row: number, from: number, to: number): void {
  for (let x = from; x < to;) {
    if ((x & 7) === 0 && x + 8 <= to) {
      const whole = (to - x) >> 3;
      data.fill(255, row + (x >> 3), row + (x >> 3) + whole);
      x += 8 * whole;
    } else {
      data[row + (x >> 3)] |= 128 >> (x & 7);
      x++;
    }
  }
}

class BitReader {
  private at = 0;

  constructor(private readonly data: Uint8Array) {}

  /** What the next word says. */
  next(table: Int32Array): number {
    const { data, at } = this;
    const byte = at >> 3;
    if (byte >= data.length) throw new FormatError("the facsimile code ends too early");
    const three = (data[byte] << 16) | ((data[byte + 1] ?? 0) << 8) | (data[byte + 2] ?? 0);
    const found = table[(three >> (24 - LONGEST - (at & 7))) & ((1 << LONGEST) - 1)];
    if (found === 0) throw new FormatError("the facsimile code has a word that is none");
    this.at = at + (found >> 16);
    return (found & 0xffff) - 0x8000;
  }

  /** A run: any number of long words, and a short one. */
  run(table: Int32Array): number {
    let length = 0;
    for (;;) {
      const part = this.next(table);
      length += part;
      if (part < 64) return length;
    }
  }
}
