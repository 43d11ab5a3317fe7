import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow } from "../raster/bits";
import { type Bits } from "../raster/types";
import { BLACK_LONG, BLACK_SHORT, EXTRA_LONG, WHITE_LONG, WHITE_SHORT } from "./faxCodes";

/** A code word: its bits as a number with a one in front, so that leading zeros count. */
const word = (bits: string): number => parseInt(`1${bits}`, 2);

const PASS = word("0001");
const HORIZONTAL = word("001");
/** Vertical modes by how far the change lies to the right of the one above: -3..3. */
const VERTICAL = ["0000010", "000010", "010", "1", "011", "000011", "0000011"].map(word);
const END_OF_LINE = word("000000000001");
const SHORT = [WHITE_SHORT.map(word), BLACK_SHORT.map(word)];
const LONG = [WHITE_LONG.map(word), BLACK_LONG.map(word)];
const EXTRA = EXTRA_LONG.map(word);

/**
 * Group 4 facsimile coding: each row as its differences from the row above. Marks are the black runs.
 * @returns the code, ended by the end-of-block word and filled up to a whole byte
 * @see ITU-T Recommendation T.6
 */
export function* encodeGroup4(bits: Bits): Work<Uint8Array> {
  const { width, height } = bits;
  const writer = new BitWriter();
  const row = new Uint8Array(width);
  let above = changesOf(row, width); // an imaginary white row comes first
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    unpackRow(bits, y, row);
    const changes = changesOf(row, width);
    encodeRow(changes, above, width, writer);
    above = changes;
  }
  writer.put(END_OF_LINE); // twice: the end of the block
  writer.put(END_OF_LINE);
  return writer.bytes();
}

/** Where the colour changes along a row that starts white, then the width three times as a stop. */
function changesOf(row: Uint8Array, width: number): number[] {
  const changes: number[] = [];
  for (let x = 0, colour = 0; x < width; x++) {
    if (row[x] === colour) continue;
    changes.push(x);
    colour = row[x];
  }
  changes.push(width, width, width);
  return changes;
}

function encodeRow(
  changes: readonly number[],
  above: readonly number[],
  width: number,
  writer: BitWriter,
): void {
  let a0 = -1;
  let colour = 0;
  let a = 0; // index of the next change of this row
  while (a0 < width) {
    const from = Math.max(a0, 0);
    const a1 = changes[a];
    const b = firstChangeAbove(above, a0, colour);
    const b1 = above[b];
    const b2 = above[b + 1];
    if (b2 < a1) {
      writer.put(PASS);
      a0 = b2;
    } else if (Math.abs(a1 - b1) <= 3) {
      writer.put(VERTICAL[a1 - b1 + 3]);
      a0 = a1;
      colour ^= 1;
      a++;
    } else {
      const a2 = changes[a + 1];
      writer.put(HORIZONTAL);
      putRun(a1 - from, colour, writer);
      putRun(a2 - a1, colour ^ 1, writer);
      a0 = a2;
      a += 2;
    }
  }
}

/** First change of the row above to the right of a0 and towards the opposite of `colour`. */
function firstChangeAbove(above: readonly number[], a0: number, colour: number): number {
  let low = 0;
  let high = above.length - 3;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (above[middle] > a0) high = middle;
    else low = middle + 1;
  }
  if (low < above.length - 3 && (low & 1) !== colour) low++;
  return low;
}

function putRun(length: number, colour: number, writer: BitWriter): void {
  for (; length >= 2560; length -= 2560) writer.put(EXTRA[12]);
  if (length >= 1792) writer.put(EXTRA[(length >> 6) - 28]);
  else if (length >= 64) writer.put(LONG[colour][(length >> 6) - 1]);
  writer.put(SHORT[colour][length & 63]);
}

class BitWriter {
  private data = new Uint8Array(65536);
  private length = 0;
  private pending = 0;
  private waiting = 0;

  put(word: number): void {
    const size = 31 - Math.clz32(word);
    this.pending = (this.pending << size) | (word ^ (1 << size)); // at most 7 + 13 bits at once
    this.waiting += size;
    while (this.waiting >= 8) {
      this.waiting -= 8;
      this.push((this.pending >>> this.waiting) & 255);
    }
    this.pending &= (1 << this.waiting) - 1;
  }

  bytes(): Uint8Array {
    if (this.waiting > 0) this.push((this.pending << (8 - this.waiting)) & 255);
    return this.data.slice(0, this.length);
  }

  private push(byte: number): void {
    if (this.length === this.data.length) {
      const larger = new Uint8Array(this.data.length * 2);
      larger.set(this.data);
      this.data = larger;
    }
    this.data[this.length++] = byte;
  }
}
