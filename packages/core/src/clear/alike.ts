import { oklabOf, type Lab } from "../colour/oklab";

const [UNKNOWN, ALIKE, OTHER] = [0, 1, 2];

/**
 * Tells whether colours are within a tolerance of a given one. Each of the 16.7 million colours is measured
 * once at most, when it is first asked for; pictures have few colours for their size.
 */
export class Alike {
  /** 0 not measured yet, 1 within the tolerance, 2 not; by red + 256 green + 65536 blue. */
  readonly table: Uint8Array;
  private readonly centre: Lab;
  private readonly limit: number;

  /**
   * @param colour     red + 256 green + 65536 blue
   * @param tolerance  distance in hundredths of OKLab, 0..100
   * @param table      16.7 million bytes to use again
   */
  constructor(colour: number, tolerance: number, table?: Uint8Array) {
    this.table = table ? table.fill(UNKNOWN) : new Uint8Array(1 << 24);
    this.centre = oklabOf(colour & 255, (colour >> 8) & 255, (colour >> 16) & 255);
    this.limit = tolerance * tolerance + 1e-9;
  }

  /** Measures a colour and notes it in the table. */
  measure(colour: number): 1 | 2 {
    const { l, a, b } = oklabOf(colour & 255, (colour >> 8) & 255, (colour >> 16) & 255);
    const [dl, da, db] = [l - this.centre.l, a - this.centre.a, b - this.centre.b];
    return (this.table[colour] = dl * dl + da * da + db * db <= this.limit ? ALIKE : OTHER) as 1 | 2;
  }
}

/** Red + 256 green + 65536 blue of every pixel, in the low three bytes of each word. */
export const wordsOf = (data: Uint8Array): Uint32Array =>
  new Uint32Array(data.buffer, data.byteOffset, data.length >> 2);
