import { LINEAR_OF_CODE } from "../colour/srgb";
import { inStretches, workSlice, type Work } from "../maths/work";
import { type Light } from "./model";

/** Works out what a colour is turned into: `out` holds what a colour near it was turned into, and gets numbers 0..1. */
export type OfColour = (light: Light, out: Float64Array) => void;

// Thresholds: what they decide is measured by `npm run films`.

/** Nodes along each side of the cube of colours, besides those at colours that must be exact. */
export const FINE = 49;
export const COARSE = 9;

/** Numbers in the table, times this, are 0..1. */
const FULL = 255 * 256;
/** Corners solved, and numbers read, between two slices. */
const SOLVED_AT_ONCE = 96;
const AT_ONCE = 1 << 17;
/** Colours that were just looked up are remembered: pictures come back to them. */
const REMEMBERED = 1 << 15;

/**
 * Numbers that follow from a colour, worked out at the corners of a grid in the cube of code values and read between
 * them by tetrahedra: of a grid's cube the four corners about the colour, so that grey stays between greys. Only corners
 * that a picture's colours touch are worked out. Colours that are named lie on corners, and come out exactly.
 *
 * @see Kasson, Nin, Plouffe & Hafner, "Performing color space conversions with three-dimensional linear interpolation",
 *      J. Electronic Imaging 4, 1995
 */
export class AmountTable {
  private readonly axes: readonly Axis[];
  private readonly values: Uint16Array;
  private readonly done: Uint8Array;
  private readonly steps: readonly [number, number, number];

  constructor(
    private readonly ofColour: OfColour,
    readonly outputs: number,
    nodes: number,
    exact: readonly number[],
  ) {
    this.axes = [16, 8, 0].map((shift) =>
      axisOf(
        nodes,
        exact.map((c) => (c >> shift) & 255),
      ),
    );
    const [r, g, b] = this.axes.map((a) => a.codes.length);
    this.steps = [g * b, b, 1];
    this.values = new Uint16Array(r * g * b * outputs);
    this.done = new Uint8Array(r * g * b);
  }

  /**
   * Turns colours into planes of greys, 255 for nothing: one plane an output.
   *
   * @param colours  0xbbggrr or more, one a pixel, as RGBA bytes are read
   */
  *planesOf(colours: Uint32Array): Work<Uint8Array[]> {
    yield* workSlice(this.prepare(colours), 0, 0.4);
    const { outputs } = this;
    const planes = Array.from({ length: outputs }, () => new Uint8Array(colours.length));
    const keys = new Int32Array(REMEMBERED).fill(-1);
    const known = new Uint8Array(REMEMBERED * outputs);
    for (let at = 0; at < colours.length; at += AT_ONCE) {
      yield 0.4 + (0.6 * at) / colours.length;
      this.stretch(colours, at, Math.min(colours.length, at + AT_ONCE), keys, known, planes);
    }
    return planes;
  }

  private stretch(
    colours: Uint32Array,
    start: number,
    end: number,
    keys: Int32Array,
    known: Uint8Array,
    planes: readonly Uint8Array[],
  ): void {
    const { outputs } = this;
    for (let i = start; i < end; i++) {
      const colour = colours[i] & 0xffffff;
      const slot = Math.imul(colour, 0x9e3779b1) >>> 17;
      const from = slot * outputs;
      if (keys[slot] !== colour) {
        keys[slot] = colour;
        this.read(colour, known, from);
      }
      for (let k = 0; k < outputs; k++) planes[k][i] = known[from + k];
    }
  }

  /** Works out every corner about the colours that are there. */
  private *prepare(colours: Uint32Array): Work<void> {
    const seen = new Uint8Array(1 << 18); // by the top six bits of each channel
    yield* workSlice(
      inStretches(colours.length, (from, to) => {
        for (let i = from; i < to; i++) {
          const c = colours[i];
          seen[((c & 0xfc) << 10) | ((c >> 4) & 0xfc0) | ((c >> 18) & 0x3f)] = 1;
        }
      }),
      0,
      0.2,
    );
    const wanted = this.cornersOf(seen);
    const numbers = new Float64Array(this.outputs);
    for (let n = 0; n < wanted.length; n++) {
      if (n % SOLVED_AT_ONCE === 0) yield 0.2 + (0.8 * n) / wanted.length;
      this.work(wanted[n], numbers);
    }
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

  private work(node: number, numbers: Float64Array): void {
    const [red, green, blue] = this.axes;
    const [rs, gs] = this.steps;
    const [i, j, k] = [Math.floor(node / rs), Math.floor((node % rs) / gs), node % gs];
    const light: Light = [
      LINEAR_OF_CODE[red.codes[i]],
      LINEAR_OF_CODE[green.codes[j]],
      LINEAR_OF_CODE[blue.codes[k]],
    ];
    this.ofColour(light, numbers);
    for (let n = 0; n < this.outputs; n++)
      this.values[node * this.outputs + n] = Math.round(numbers[n] * FULL);
    this.done[node] = 1;
  }

  /** One colour, 0xbbggrr, read between its corners into greys. */
  private read(colour: number, out: Uint8Array, to: number): void {
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
    const { outputs, values } = this;
    const a = base * outputs;
    const [b1, c1, d1] = [a + one * outputs, a + two * outputs, a + (rs + gs + bs) * outputs];
    const [wa, wb, wc] = [256 - high, high - middle, middle - low];
    for (let k = 0; k < outputs; k++) {
      const sum = wa * values[a + k] + wb * values[b1 + k] + wc * values[c1 + k] + low * values[d1 + k];
      out[to + k] = 255 - ((sum + 32768) >> 16);
    }
  }
}

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
