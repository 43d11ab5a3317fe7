/** Colours that were just looked up are remembered, by a hash of so many values: pictures come back to them. */
const REMEMBERED = 1 << 15;

/**
 * What colours are turned into, written into planes. The greys of a colour lie four to a word; four pixels are written at
 * once, plane by plane, by taking their words apart: a fourth of the writing.
 */
export class Greys {
  private readonly keys = new Int32Array(REMEMBERED).fill(-1);
  /** Where in the list of words the greys of a remembered colour begin. */
  private readonly places = new Int32Array(REMEMBERED);
  private words: Uint32Array<ArrayBuffer>;
  private end = 0;
  private readonly wide: number;
  private readonly one: Uint8Array;
  private readonly oneInWords: Uint32Array;
  /** Where the greys of each pixel of a stretch begin. */
  private at = new Int32Array(0);

  constructor(
    private readonly outputs: number,
    private readonly greysOf: (colour: number, out: Uint8Array) => void,
  ) {
    this.wide = Math.ceil(outputs / 4);
    this.words = new Uint32Array(this.wide * REMEMBERED);
    this.oneInWords = new Uint32Array(this.wide);
    this.one = new Uint8Array(this.oneInWords.buffer);
  }

  /**
   * Writes the greys of a stretch of pixels.
   *
   * @param colours  0xbbggrr or more
   * @param start    a multiple of four
   * @param planes   one an output, each with a buffer of its own
   */
  write(colours: Uint32Array, start: number, end: number, planes: readonly Uint8Array[]): void {
    this.look(colours, start, end);
    const whole = (end - start) >> 2;
    const fours = planes.map((plane) => new Uint32Array(plane.buffer, start, whole));
    const nowhere = new Uint32Array(whole);
    for (let k = 0; k < this.outputs; k += 4) {
      const [a, b = nowhere, c = nowhere, d = nowhere] = fours.slice(k, k + 4);
      takenApart(this.words, this.at, k >> 2, a, b, c, d);
    }
    for (let i = start + 4 * whole; i < end; i++)
      for (const [k, plane] of planes.entries())
        plane[i] = (this.words[this.at[i - start] + (k >> 2)] >>> (8 * (k & 3))) & 255;
  }

  /** Finds the greys of every pixel; none are let go before the stretch is written. */
  private look(colours: Uint32Array, start: number, end: number): void {
    if (this.at.length < end - start) this.at = new Int32Array(end - start);
    if (this.end >= this.wide * REMEMBERED) {
      this.keys.fill(-1);
      this.end = 0;
    }
    const { keys, places, at } = this;
    for (let i = start; i < end; i++) {
      const colour = colours[i] & 0xffffff;
      const slot = Math.imul(colour, 0x9e3779b1) >>> 17;
      if (keys[slot] !== colour) {
        keys[slot] = colour;
        places[slot] = this.add(colour);
      }
      at[i - start] = places[slot];
    }
  }

  private add(colour: number): number {
    if (this.end + this.wide > this.words.length) {
      const more = new Uint32Array(2 * this.words.length);
      more.set(this.words);
      this.words = more;
    }
    this.greysOf(colour, this.one);
    this.words.set(this.oneInWords, this.end);
    this.end += this.wide;
    return this.end - this.wide;
  }
}

/** Words of four pixels each, of which each byte goes to another plane. */
function takenApart(
  words: Uint32Array,
  at: Int32Array,
  word: number,
  a: Uint32Array,
  b: Uint32Array,
  c: Uint32Array,
  d: Uint32Array,
): void {
  for (let n = 0, i = 0; n < a.length; n++, i += 4) {
    const p = words[at[i] + word];
    const q = words[at[i + 1] + word];
    const r = words[at[i + 2] + word];
    const s = words[at[i + 3] + word];
    a[n] = (p & 255) | ((q & 255) << 8) | ((r & 255) << 16) | (s << 24);
    b[n] = ((p >>> 8) & 255) | (q & 0xff00) | ((r & 0xff00) << 8) | ((s & 0xff00) << 16);
    c[n] = ((p >>> 16) & 255) | ((q >>> 8) & 0xff00) | (r & 0xff0000) | ((s & 0xff0000) << 8);
    d[n] = (p >>> 24) | ((q >>> 16) & 0xff00) | ((r >>> 8) & 0xff0000) | (s & 0xff000000);
  }
}
