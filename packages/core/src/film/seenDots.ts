import { CODE_OF_LINEAR, CODE_STEPS } from "../colour/srgb";
import { type Work } from "../maths/work";
import { newRgba, type Bits, type Rect, type Rgba } from "../raster/types";
import { laidOn, type Layer, type Light } from "./model";

/** A plate as it is looked at from afar: its dots where they are solid, and its tone where they stand for one. */
export interface SeenPlate extends Layer {
  /** Solid dots, and by how many dots they are off. Null where the tone is looked at. */
  readonly dots: { readonly bits: Bits; readonly x: number; readonly y: number } | null;
  /** Share of each pixel of the view, 255 = bare; of a plate without solid dots. */
  readonly share: Uint8Array | null;
  /** Lies under other inks alone, so none of it is beside them. */
  readonly under: boolean;
}

/** So many plates without solid dots are followed at most: each doubles what is added up. */
export const MOST_TONES = 3;
/** Dots that are looked through between two slices. */
const DOTS_AT_ONCE = 1 << 19;

/**
 * What an eye sees of solid dots from afar: the mean of their light, dot by dot, so that inks which abut have no seam and
 * inks which overlap have their overlap. Tones among them cover by chance.
 *
 * @param part    in dots, fractions allowed; beyond the plates is ground
 * @param plates  in print order; with solid dots one at least, with tones `MOST_TONES` at most
 * @see `printedLight` for the model of one ink over another
 */
export function* seenDots(
  plates: readonly SeenPlate[],
  ground: Light,
  part: Rect,
  width: number,
  height: number,
): Work<Rgba> {
  const solid = plates.filter((p) => p.dots !== null);
  const tones = plates.filter((p) => p.dots === null);
  const kinds = 1 << tones.length;
  const channels = 3 * kinds + 1; // light of each kind, and, last, where any solid ink is
  const table = lightsOf(plates, solid, tones, ground);
  const out = newRgba(width, height);
  const [across, down] = [width / part.width, height / part.height];
  const [left, right] = [8 * Math.floor(part.x / 8), Math.ceil(part.x + part.width)];
  let [sums, next] = [new Float64Array(channels * width), new Float64Array(channels * width)];
  const rows = new Rows(
    solid.map((p) => p.dots!),
    left,
    right,
  );
  const atOnce = Math.max(1, Math.floor(DOTS_AT_ONCE / Math.max(1, right - left)));
  const [from, to] = [Math.floor(part.y), Math.ceil(part.y + part.height)];

  /** Adds a run of dots to a row of the view that it covers so much of. */
  const addRun = (sum: Float64Array, high: number, start: number, end: number, combination: number): void => {
    const [a, b] = [Math.max(0, (start - part.x) * across), Math.min(width, (end - part.x) * across)];
    const own = combination * channels;
    for (let u = Math.floor(a); u < b; u++) {
      const weight = high * (Math.min(b, u + 1) - Math.max(a, u));
      for (let c = 0, o = u * channels; c < channels; c++, o++) sum[o] += weight * table[own + c];
    }
  };

  let at = 0; // row of the view that is being added up
  for (let y = from; y < to; y++) {
    if ((y - from) % atOnce === 0) yield (y - from) / (to - from);
    const [top, bottom] = [Math.max(0, (y - part.y) * down), Math.min(height, (y + 1 - part.y) * down)];
    // A row of dots is no higher than one of the view: what of it is over the edge belongs to the next.
    const high = Math.min(bottom, at + 1) - top;
    const over = bottom - (at + 1);
    rows.runs(y, (start, end, combination) => {
      addRun(sums, high, start, end, combination);
      if (over > 0) addRun(next, over, start, end, combination);
    });
    if (over < -1e-9) continue;
    writeRow(sums, tones, at * width, out);
    [sums, next] = [next, sums];
    next.fill(0);
    at++;
  }
  if (at < height) writeRow(sums, tones, at * width, out);
  return out;
}

/** For each combination of solid inks, and for the tones all there or not, the light; and whether any solid ink is there. */
function lightsOf(
  plates: readonly SeenPlate[],
  solid: readonly SeenPlate[],
  tones: readonly SeenPlate[],
  ground: Light,
): Float64Array {
  const kinds = 1 << tones.length;
  const channels = 3 * kinds + 1;
  const table = new Float64Array((1 << solid.length) * channels);
  for (let combination = 0; combination < 1 << solid.length; combination++) {
    for (let kind = 0; kind < kinds; kind++)
      for (let c = 0; c < 3; c++) {
        let light = ground[c];
        for (const plate of plates) {
          const isThere = plate.dots
            ? (combination >> solid.indexOf(plate)) & 1
            : (kind >> tones.indexOf(plate)) & 1 && !(plate.under && combination === 0);
          if (isThere) light = laidOn(light, plate.light[c], plate.opacity);
        }
        table[combination * channels + 3 * kind + c] = light;
      }
    table[combination * channels + 3 * kinds] = combination > 0 ? 1 : 0;
  }
  return table;
}

/** A row of sums becomes pixels: between the kinds by what of the tones is there. */
function writeRow(sums: Float64Array, tones: readonly SeenPlate[], first: number, out: Rgba): void {
  const kinds = 1 << tones.length;
  const channels = 3 * kinds + 1;
  for (let u = 0; u < out.width; u++) {
    const own = u * channels;
    const inked = sums[own + 3 * kinds];
    for (let c = 0; c < 3; c++) {
      let light = 0;
      for (let kind = 0; kind < kinds; kind++) {
        let part = 1;
        for (const [k, { share, under }] of tones.entries()) {
          const all = (255 - share![first + u]) / 255;
          const amount = under && inked > 0 ? Math.min(1, all / inked) : all;
          part *= (kind >> k) & 1 ? amount : 1 - amount;
        }
        light += part * sums[own + 3 * kind + c];
      }
      out.data[4 * (first + u) + c] =
        CODE_OF_LINEAR[Math.min(CODE_STEPS, Math.max(0, (light * CODE_STEPS + 0.5) | 0))];
    }
    out.data[4 * (first + u) + 3] = 255;
  }
}

/** Rows of several plates at once, as runs of dots in which the same of them are marked. */
class Rows {
  private readonly bytes: number;
  private readonly shifted: readonly Uint8Array[];

  constructor(
    private readonly plates: readonly NonNullable<SeenPlate["dots"]>[],
    private readonly left: number,
    right: number,
  ) {
    this.bytes = Math.ceil((right - left) / 8);
    this.shifted = plates.map(() => new Uint8Array(this.bytes));
  }

  runs(y: number, add: (from: number, to: number, combination: number) => void): void {
    const { plates, left, bytes } = this;
    const rows = plates.map((_, k) => this.rowOf(k, y));
    let [start, current] = [0, 0];
    for (let x = 0; x < bytes; x++) {
      while (x < bytes && isWhole(rows, x, current)) x++;
      if (x === bytes) break;
      for (let bit = 0; bit < 8; bit++) {
        let combination = 0;
        for (let k = 0; k < rows.length; k++) combination |= ((rows[k][x] >> (7 - bit)) & 1) << k;
        if (combination === current) continue;
        if (8 * x + bit > start) add(left + start, left + 8 * x + bit, current);
        [start, current] = [8 * x + bit, combination];
      }
    }
    if (8 * bytes > start) add(left + start, left + 8 * bytes, current);
  }

  /** A plate's marks from the left on, eight to a byte; none beyond the plate. */
  private rowOf(k: number, y: number): Uint8Array {
    const { bytes, left } = this;
    const { bits, x: offX, y: offY } = this.plates[k];
    const [u, v] = [left + offX, y + offY];
    const own = this.shifted[k];
    if (v < 0 || v >= bits.height) return own.fill(0);
    const row = bits.data.subarray(v * bits.stride, (v + 1) * bits.stride);
    const [first, shift] = [u >> 3, u & 7];
    if (shift === 0 && first >= 0 && first + bytes <= bits.stride) return row.subarray(first, first + bytes);
    const at = (byte: number): number => (byte >= 0 && byte < bits.stride ? row[byte] : 0);
    for (let x = 0; x < bytes; x++) own[x] = (at(first + x) << shift) | (at(first + x + 1) >> (8 - shift));
    return own;
  }
}

/** Whether eight dots are all of one combination. */
function isWhole(rows: readonly Uint8Array[], x: number, combination: number): boolean {
  for (let k = 0; k < rows.length; k++) if (rows[k][x] !== ((combination >> k) & 1 ? 255 : 0)) return false;
  return true;
}
