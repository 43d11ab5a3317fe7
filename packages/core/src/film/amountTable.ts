import { LINEAR_OF_CODE } from "../colour/srgb";
import { isShareable, roomFor, shareOut } from "../hands/shareOut";
import { inStretches, workSlice, type Work } from "../maths/work";
import {
  amountCorners,
  CORNERS_A_PART,
  FULL,
  solveCorners,
  type AmountsWish,
  type OfColour,
} from "./amountCorners";
import { Greys } from "./greys";
import { type Light } from "./model";

/** Brings numbers that were read between corners nearer to what the colour asks for; says whether there was need. */
export type Mend = (light: Light, numbers: Float64Array) => boolean;

// Thresholds: what they decide is measured by `npm run films`.

/** Nodes along each side of the cube of colours, besides those at colours that must be exact. */
export const FINE = 49;
export const COARSE = 9;

/** Numbers read between two slices. */
const AT_ONCE = 1 << 17;
/** Colours mended between two slices, and as how many that are well each counts. */
const MENDED_AT_ONCE = 128;
const LOOKS_A_MEND = 20;
/** With more than so many a table has grown enough. */
const MOST_MENDED = 1 << 19;
const COLOURS = 1 << 24;

/**
 * Numbers that follow from a colour, worked out at the corners of a grid in the cube of code values and read between
 * them by tetrahedra: of a grid's cube the four corners about the colour, so that grey stays between greys. Only corners
 * that a picture's colours touch are worked out. Colours that are named lie on corners, and come out exactly. Where two
 * corners came to the same by other ways, what lies between is neither: such a colour is mended by itself.
 *
 * @see Kasson, Nin, Plouffe & Hafner, "Performing color space conversions with three-dimensional linear interpolation",
 *      J. Electronic Imaging 4, 1995
 */
export class AmountTable {
  private readonly axes: readonly Axis[];
  private readonly values: Uint16Array;
  private readonly done: Uint8Array;
  private readonly steps: readonly [number, number, number];
  /** Colours that were looked at, a bit each; where the numbers of a mended one begin, and those numbers. */
  private readonly looked: Uint32Array;
  private readonly mended = new Map<number, number>();
  private mendedNumbers = new Uint8Array(1 << 10);
  /** Corners about the colour that was last looked up, and by how much each counts, in 256ths. */
  private readonly corners = new Int32Array(4);
  private readonly weights = new Int32Array(4);

  constructor(
    private readonly ofColour: OfColour,
    readonly outputs: number,
    nodes: number,
    exact: readonly number[],
    private readonly mend?: Mend,
    /** What `ofColour` goes by, for threads that help. */
    private readonly wish?: AmountsWish,
  ) {
    this.axes = [16, 8, 0].map((shift) =>
      axisOf(
        nodes,
        exact.map((c) => (c >> shift) & 255),
      ),
    );
    const [r, g, b] = this.axes.map((a) => a.codes.length);
    this.steps = [g * b, b, 1];
    this.values = new Uint16Array(roomFor(2 * r * g * b * outputs));
    this.done = new Uint8Array(roomFor(r * g * b));
    this.looked = new Uint32Array(mend ? COLOURS / 32 : 0);
  }

  /** It holds so many single colours that the next picture is better served by a new one. */
  get isFull(): boolean {
    return this.mended.size > MOST_MENDED;
  }

  /**
   * Turns colours into planes of greys, 255 for nothing: one plane an output.
   *
   * @param colours  0xbbggrr or more, one a pixel, as RGBA bytes are read
   */
  *planesOf(colours: Uint32Array): Work<Uint8Array[]> {
    const present = yield* workSlice(presentIn(colours), 0, 0.1);
    yield* workSlice(this.prepare(present), 0.1, 0.3);
    if (this.mend) yield* workSlice(this.mendAll(present, this.mend), 0.3, 0.4);
    const planes = Array.from({ length: this.outputs }, () => new Uint8Array(colours.length));
    const greys = new Greys(this.outputs, (colour, out) => this.greysOf(colour, out));
    for (let at = 0; at < colours.length; at += AT_ONCE) {
      yield 0.4 + (0.6 * at) / colours.length;
      greys.write(colours, at, Math.min(colours.length, at + AT_ONCE), planes);
    }
    return planes;
  }

  /** Works out every corner about the colours that are there. */
  private *prepare(present: Uint32Array): Work<void> {
    const seen = new Uint8Array(1 << 18); // by the top six bits of each channel
    for (let word = 0; word < present.length; word++) {
      if (present[word] === 0) continue;
      // A word holds 32 neighbours: eight groups of four that differ in the last two bits of red alone.
      const group = ((word & 0x7e000) >> 13) | ((word & 0x7e0) << 1);
      for (let k = 0; k < 8; k++)
        if ((present[word] >>> (4 * k)) & 15) seen[group | ((((word & 7) << 3) | k) << 12)] = 1;
    }
    const wanted = this.cornersOf(seen);
    const nodes = new Int32Array(roomFor(4 * wanted.length));
    nodes.set(wanted);
    const { outputs, values, done, wish } = this;
    const corners = { axes: this.axes.map((a) => a.codes), outputs, nodes, values, done };
    if (wish && isShareable(values, nodes, done))
      yield* shareOut(amountCorners, { ...corners, wish }, Math.ceil(nodes.length / CORNERS_A_PART));
    else yield* solveCorners(corners, this.ofColour, 0, nodes.length);
  }

  /** Looks at every colour that is new, and mends what prints as another. */
  private *mendAll(present: Uint32Array, mend: Mend): Work<void> {
    const numbers = new Float64Array(this.outputs);
    let since = 0;
    for (let word = 0; word < present.length; word++) {
      const fresh = present[word] & ~this.looked[word];
      if (fresh === 0) continue;
      this.looked[word] |= fresh;
      for (let bit = 0; bit < 32; bit++) {
        if (((fresh >>> bit) & 1) === 0) continue;
        const colour = word * 32 + bit;
        this.between(colour);
        for (let k = 0; k < this.outputs; k++) numbers[k] = this.numberBetween(k);
        if (!mend(lightOf(colour), numbers)) since++;
        else {
          since += LOOKS_A_MEND;
          this.keepMended(colour, numbers);
        }
      }
      if (since < MENDED_AT_ONCE * LOOKS_A_MEND) continue;
      since = 0;
      yield word / present.length;
    }
  }

  private keepMended(colour: number, numbers: Float64Array): void {
    const at = this.mended.size * this.outputs;
    this.mended.set(colour, at);
    if (at + this.outputs > this.mendedNumbers.length) {
      const more = new Uint8Array(2 * (at + this.outputs));
      more.set(this.mendedNumbers);
      this.mendedNumbers = more;
    }
    for (let k = 0; k < this.outputs; k++) this.mendedNumbers[at + k] = 255 - Math.round(255 * numbers[k]);
  }

  private cornersOf(seen: Uint8Array): number[] {
    const wanted = new Uint8Array(this.done.length);
    const [red, green, blue] = this.axes;
    for (let s = 0; s < seen.length; s++) {
      if (seen[s] === 0) continue;
      const [r, g, b] = [(s >> 12) << 2, ((s >> 6) & 63) << 2, (s & 63) << 2];
      for (let i = red.low[r]; i <= red.low[r + 3] + 1; i++)
        for (let j = green.low[g]; j <= green.low[g + 3] + 1; j++)
          for (let k = blue.low[b]; k <= blue.low[b + 3] + 1; k++)
            wanted[i * this.steps[0] + j * this.steps[1] + k] = 1;
    }
    const list: number[] = [];
    for (let n = 0; n < wanted.length; n++) if (wanted[n] && !this.done[n]) list.push(n);
    return list;
  }

  /** One colour, 0xbbggrr, as greys: as it was mended, or read between its corners. */
  private greysOf(colour: number, out: Uint8Array): void {
    const at = this.mended.get(colour);
    if (at === undefined) this.between(colour);
    for (let k = 0; k < this.outputs; k++)
      out[k] = at === undefined ? 255 - ((this.sumBetween(k) + 32768) >> 16) : this.mendedNumbers[at + k];
  }

  private sumBetween(k: number): number {
    const { corners, weights, values } = this;
    return (
      weights[0] * values[corners[0] + k] +
      weights[1] * values[corners[1] + k] +
      weights[2] * values[corners[2] + k] +
      weights[3] * values[corners[3] + k]
    );
  }

  private numberBetween(k: number): number {
    return this.sumBetween(k) / (256 * FULL);
  }

  private between(colour: number): void {
    const [red, green, blue] = this.axes;
    const [rs, gs, bs] = this.steps;
    const [r, g, b] = [colour & 255, (colour >> 8) & 255, colour >> 16];
    const [fr, fg, fb] = [red.part[r], green.part[g], blue.part[b]];
    const base = red.low[r] * rs + green.low[g] * gs + blue.low[b];
    // From the lowest corner to the highest, along the axes by how far the colour lies along each.
    let [one, two, high, middle, low] = [0, 0, 0, 0, 0];
    if (fr >= fg && fg >= fb) [one, two, high, middle, low] = [rs, rs + gs, fr, fg, fb];
    else if (fr >= fb && fb >= fg) [one, two, high, middle, low] = [rs, rs + bs, fr, fb, fg];
    else if (fb >= fr && fr >= fg) [one, two, high, middle, low] = [bs, bs + rs, fb, fr, fg];
    else if (fg >= fr && fr >= fb) [one, two, high, middle, low] = [gs, gs + rs, fg, fr, fb];
    else if (fg >= fb && fb >= fr) [one, two, high, middle, low] = [gs, gs + bs, fg, fb, fr];
    else [one, two, high, middle, low] = [bs, bs + gs, fb, fg, fr];
    const { outputs, corners, weights } = this;
    const a = base * outputs;
    [corners[0], corners[1], corners[2]] = [a, a + one * outputs, a + two * outputs];
    corners[3] = a + (rs + gs + bs) * outputs;
    [weights[0], weights[1], weights[2], weights[3]] = [256 - high, high - middle, middle - low, low];
  }
}

/** Which of all colours are there, a bit each. */
function* presentIn(colours: Uint32Array): Work<Uint32Array> {
  const present = new Uint32Array(COLOURS / 32);
  yield* inStretches(colours.length, (from, to) => {
    for (let i = from; i < to; i++) present[(colours[i] & 0xffffff) >>> 5] |= 1 << (colours[i] & 31);
  });
  return present;
}

/** Linear light of a colour 0xbbggrr. */
const lightOf = (colour: number): Light => [
  LINEAR_OF_CODE[colour & 255],
  LINEAR_OF_CODE[(colour >> 8) & 255],
  LINEAR_OF_CODE[colour >> 16],
];

interface Axis {
  readonly codes: readonly number[];
  /** For each code value the node at or below it, never the last, and how far on to the next in 256ths. */
  readonly low: Uint8Array;
  readonly part: Uint16Array;
}

function axisOf(nodes: number, exact: readonly number[]): Axis {
  const even = Array.from({ length: nodes }, (_, k) => Math.round((255 * k) / (nodes - 1)));
  const codes = [...new Set([...even, ...exact])].sort((a, b) => a - b);
  const low = new Uint8Array(256);
  const part = new Uint16Array(256);
  for (let code = 0, at = 0; code < 256; code++) {
    while (at < codes.length - 2 && codes[at + 1] <= code) at++;
    low[code] = at;
    part[code] = Math.round((256 * (code - codes[at])) / (codes[at + 1] - codes[at]));
  }
  return { codes, low, part };
}
