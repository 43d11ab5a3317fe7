import { rowsAtOnce, type Work } from "../maths/work";
import { type Bits } from "../raster/types";
import { BLACK_LONG, BLACK_SHORT, EXTRA_LONG, WHITE_LONG, WHITE_SHORT } from "./faxCodes";

/** A code word: its bits, and above them, from bit 16 on, how many they are. */
const word = (bits: string): number => (bits.length << 16) | parseInt(bits, 2);

const PASS = word("0001");
const HORIZONTAL = word("001");
/** Vertical modes by how far the change lies to the right of the one above: -3..3. */
const VERTICAL = Int32Array.from(["0000010", "000010", "010", "1", "011", "000011", "0000011"], word);
const END_OF_LINE = word("000000000001");
/** Runs of 0..63 pixels, white ones and then black ones; and of 64, 128 .. 1728. */
const SHORT = Int32Array.from([...WHITE_SHORT, ...BLACK_SHORT], word);
const LONG = Int32Array.from([...WHITE_LONG, ...BLACK_LONG], word);
const EXTRA = Int32Array.from(EXTRA_LONG, word);
const [SHORTS, LONGS] = [WHITE_SHORT.length, WHITE_LONG.length];

/**
 * Group 4 facsimile coding: each row as its differences from the row above. Marks are the black runs.
 * @returns the code, ended by the end-of-block word and filled up to a whole byte
 * @see ITU-T Recommendation T.6
 */
export function* encodeGroup4(bits: Bits): Work<Uint8Array> {
  const { width, height, stride, data } = bits;
  const writer = new BitWriter();
  // Where the colour changes along a row that starts white, then the width as a stop; an imaginary white row comes first.
  let changes = new Int32Array(width + STOPS);
  let above = new Int32Array(width + STOPS).fill(width, 0, STOPS);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    findChanges(data, y * stride, stride, width, changes);
    writer.room(8 * width + 64); // no code of a row is longer than four bytes a pixel
    encodeRow(changes, above, width, writer);
    [above, changes] = [changes, above];
  }
  writer.room(64);
  writer.put(END_OF_LINE); // twice: the end of the block
  writer.put(END_OF_LINE);
  return writer.bytes();
}

/** How often the width stands at the end of a row's changes, so that whoever looks two ahead finds it. */
const STOPS = 4;

/** For each byte in which a bit stands where a dot differs from the one before it: how many, and which. */
const COUNT = Uint8Array.from({ length: 256 }, (_, byte) => bitsOf(byte).length);
const WHICH = Uint8Array.from({ length: 256 * 8 }, (_, i) => bitsOf(i >> 3)[i & 7] ?? 0);

/** Places of the set bits of a byte, from the most significant, 0, on. */
function bitsOf(byte: number): number[] {
  return Array.from({ length: 8 }, (_, k) => k).filter((k) => (byte >> (7 - k)) & 1);
}

function findChanges(data: Uint8Array, start: number, stride: number, width: number, out: Int32Array): void {
  let count = 0;
  let last = 0; // the dot before, in the place of a byte's most significant bit
  for (let b = 0; b < stride; b++) {
    const byte = data[start + b];
    const differs = byte ^ ((byte >> 1) | last);
    last = (byte & 1) << 7;
    if (differs === 0) continue;
    const x = b << 3;
    const found = COUNT[differs];
    const at = differs << 3;
    for (let k = 0; k < found; k++) out[count++] = x + WHICH[at + k];
  }
  if (count > 0 && out[count - 1] >= width) count--; // the padding after a mark at the end
  for (let k = 0; k < STOPS; k++) out[count + k] = width;
}

function encodeRow(changes: Int32Array, above: Int32Array, width: number, writer: BitWriter): void {
  let a0 = -1;
  let colour = 0;
  let a = 0; // index of the next change of this row
  let b = 0; // of the row above: the first to the right of a0 and towards the opposite of `colour`
  while (a0 < width) {
    while (b > 0 && above[b - 1] > a0) b--;
    while (above[b] <= a0 && above[b] < width) b++;
    if (above[b] < width && (b & 1) !== colour) b++;
    const a1 = changes[a];
    const b1 = above[b];
    const b2 = b1 < width ? above[b + 1] : width;
    const off = a1 - b1;
    if (b2 < a1) {
      writer.put(PASS);
      a0 = b2;
    } else if (off <= 3 && off >= -3) {
      writer.put(VERTICAL[off + 3]);
      a0 = a1;
      colour ^= 1;
      a++;
    } else {
      const a2 = a1 < width ? changes[a + 1] : width;
      writer.put(HORIZONTAL);
      putRun(a1 - (a0 < 0 ? 0 : a0), colour, writer);
      putRun(a2 - a1, colour ^ 1, writer);
      a0 = a2;
      a += 2;
    }
  }
}

function putRun(length: number, colour: number, writer: BitWriter): void {
  for (; length >= 2560; length -= 2560) writer.put(EXTRA[12]);
  if (length >= 1792) writer.put(EXTRA[(length >> 6) - 28]);
  else if (length >= 64) writer.put(LONG[colour * LONGS + (length >> 6) - 1]);
  writer.put(SHORT[colour * SHORTS + (length & 63)]);
}

class BitWriter {
  private data = new Uint8Array(65536);
  private length = 0;
  private pending = 0;
  private waiting = 0;

  /** Makes sure that so many bytes can be put. */
  room(bytes: number): void {
    if (this.length + bytes <= this.data.length) return;
    const larger = new Uint8Array(2 * this.data.length + bytes);
    larger.set(this.data);
    this.data = larger;
  }

  put(word: number): void {
    const size = word >> 16;
    let pending = (this.pending << size) | (word & 0xffff); // at most 7 + 13 bits at once
    let waiting = this.waiting + size;
    while (waiting >= 8) {
      waiting -= 8;
      this.data[this.length++] = pending >>> waiting;
    }
    pending &= (1 << waiting) - 1;
    this.pending = pending;
    this.waiting = waiting;
  }

  bytes(): Uint8Array {
    if (this.waiting > 0) this.data[this.length++] = this.pending << (8 - this.waiting);
    return this.data.slice(0, this.length);
  }
}
