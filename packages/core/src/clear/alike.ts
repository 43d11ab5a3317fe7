import { oklabOf, type Lab } from "../colour/oklab";

/**
 * Room for what is known of each of the 16.7 million colours. For whoever asks about one colour after another it is
 * used again without being wiped: every asking has two numbers of its own.
 */
export class ColourTable {
  readonly bytes = new Uint8Array(1 << 24);
  private last = 0;

  /** The first of two numbers that no colour has yet. */
  next(): number {
    if (this.last > 252) {
      this.bytes.fill(0);
      this.last = 0;
    }
    this.last += 2;
    return this.last - 1;
  }
}

/**
 * Tells whether colours are within a tolerance of a given one. Each colour is measured once at most, when it is
 * first asked for; pictures have few colours for their size.
 */
export class Alike {
  private readonly bytes: Uint8Array;
  private readonly yes: number;
  private readonly no: number;
  private readonly centre: Lab;
  private readonly limit: number;

  /**
   * @param colour     red + 256 green + 65536 blue
   * @param tolerance  distance in hundredths of OKLab, 0..100
   */
  constructor(colour: number, tolerance: number, table = new ColourTable()) {
    this.bytes = table.bytes;
    this.yes = table.next();
    this.no = this.yes + 1;
    this.centre = oklabOf(colour & 255, (colour >> 8) & 255, (colour >> 16) & 255);
    this.limit = tolerance * tolerance + 1e-9;
  }

  /** 1 when the colour is within the tolerance, else 0. */
  has(colour: number): 0 | 1 {
    const known = this.bytes[colour];
    if (known === this.yes) return 1;
    return known === this.no ? 0 : this.measure(colour);
  }

  private measure(colour: number): 0 | 1 {
    const { l, a, b } = oklabOf(colour & 255, (colour >> 8) & 255, (colour >> 16) & 255);
    const [dl, da, db] = [l - this.centre.l, a - this.centre.a, b - this.centre.b];
    const within = dl * dl + da * da + db * db <= this.limit;
    this.bytes[colour] = within ? this.yes : this.no;
    return within ? 1 : 0;
  }
}

/** Red + 256 green + 65536 blue of every pixel, in the low three bytes of each word. */
export const wordsOf = (data: Uint8Array): Uint32Array =>
  new Uint32Array(data.buffer, data.byteOffset, data.length >> 2);
