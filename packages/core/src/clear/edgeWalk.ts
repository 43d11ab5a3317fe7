import { mixture } from "../colour/mixture";
import { inStretches, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { wordsOf } from "./alike";
import { type Clearing } from "./clearing";

/** How far from the background pixels of a sharp edge, and of a soft one, may still be mixed with it, in pixels. */
export const REACH = { sharp: 3, soft: 80 } as const;
export type Edge = keyof typeof REACH;

// Thresholds: what they decide is measured by `npm run rims`.

/** How far out the background is looked at beside a sharp edge: beyond the ripples that a JPEG leaves, half a block. */
const STAND_OFF = 4;
/** A colour that changes by no more than this, in code values, does not change: rounding and the faintest grain. */
const DRIFT = 2.5;
/**
 * A step that changes the distance from the background by less than this share has reached the art: the last step of
 * an edge of one blurred pixel is a quarter and more, grain of 5 code values on 60 is a twelfth.
 */
export const SETTLED = 1.12;
/** The same for a stretch of several pixels, over which a soft edge that goes on grows by half; between that and grain. */
const SETTLED_WIDE = 1.2;
/** A top that is higher by this than what lies before it is still climbed to; less is the mean of a few grains. */
const LEVEL = 1.04;
/**
 * What is no further from the background than this, in code values, may be its own noise, and does not tell how the
 * edge rises: twice the spread of a phone's grain.
 */
const INDISTINCT = 12;
/** How many pixels of that kind a walk passes: a block of a JPEG. */
const PASSED = 8;
/** From so far above the background on, in code values, an outline is one at the first even step: it stands out by itself. */
const PLAIN = 60;
/** At half its depth a mixture is this much thinner at least; what is as strong there is a shade of the art's own. */
const THINNER = 0.92;
/** Over one pixel an even colour changes by less than this share; a soft edge of 20 pixels changes by as much. */
const FLAT = 1.05;
/** How far a mixture may lie off the line from background to art, as a share of it: what a JPEG's colour does to an edge. */
export const OFF_LINE = 0.1;
/**
 * An edge that stands this far above the background, in code values, within so many pixels is sharp: a focused lens and
 * a scanner need two or three, a wash of watercolour ten and more.
 */
export const HIGH = 40;
const WITHIN = 4;
/** Down to this share of the first distinct pixel's distance, taken pixels are the thin end of the same edge; fainter is ground. */
const THIN_END = 0.35;

/** Distance from the background at so many pixels inwards, over a small area; below 0 outside the art. */
type At = (step: number, radius: number) => number;

/**
 * Walks across an edge, from a pixel of it outwards to the background and inwards to the art.
 *
 * A sharp edge is judged pixel by pixel, so that a narrow pale outline that belongs to the art is met before the
 * dark behind it. A soft one is climbed by stretches that grow with its height, so that grain does not end the climb.
 */
export class EdgeWalk {
  /** Colour of the background, of the art. */
  readonly back = new Float64Array(3);
  readonly art = new Float64Array(3);
  /** How many taken pixels belong to the same edge. */
  tail = 0;
  private readonly seen = new Map<number, readonly [number, number, number, number]>();
  private readonly mean = new Float64Array(3);
  private readonly wide = new Float64Array(3);
  private readonly peak = new Float64Array(3);

  private readonly source: Rgba;
  private readonly taken: Uint8Array;
  /** Colour of every pixel of the art as one word; 0 outside it. */
  private readonly words: Uint32Array;

  /** @param words  as `artWords` makes them */
  constructor({ source, taken }: Pick<Clearing, "source" | "taken">, words: Uint32Array) {
    this.source = source;
    this.taken = taken;
    this.words = words;
  }

  /**
   * Sets `back` and `tail` beside the taken pixel (qx, qy).
   * @param ux, uy  unit vector inwards
   */
  outwards(qx: number, qy: number, ux: number, uy: number): void {
    const { back } = this;
    const q = qy * this.source.width + qx;
    const known = this.seen.get(q);
    if (known) {
      [back[0], back[1], back[2], this.tail] = known;
      return;
    }
    let off = STAND_OFF;
    this.backgroundAt(qx, qy, ux, uy, off, back);
    const first = this.firstDistinct(qx, qy, ux, uy);
    // In the thin end of a soft edge the colour still runs towards the background's further out.
    const { wide } = this;
    while (first && off < REACH.soft) {
      this.backgroundAt(qx, qy, ux, uy, 2 * off, wide);
      if (apart(wide, back) <= DRIFT || apart(first, wide) <= SETTLED * apart(first, back)) break;
      back.set(wide);
      off *= 2;
    }
    this.tail = first ? this.thinEnd(qx, qy, ux, uy, off, THIN_END * apart(first, back)) : 0;
    this.seen.set(q, [back[0], back[1], back[2], this.tail]);
  }

  /** What kind of edge begins at the taken pixel (qx, qy), seen from there alone. */
  kindAt(qx: number, qy: number, ux: number, uy: number): Edge {
    this.outwards(qx, qy, ux, uy);
    const at = (step: number): number =>
      this.distanceAt(Math.round(qx + ux * step), Math.round(qy + uy * step), 0);
    // Two pixels of one colour are an edge that is over; where that colour is faint, three: a shadow has grain.
    for (let step = 1; step <= WITHIN; step++) {
      const [first, second] = [at(step), at(step + 1)];
      if (first < HIGH || second > first * FLAT) continue;
      if (first >= PLAIN || at(step + 2) < first * FLAT) return "sharp";
    }
    if (at(2 * WITHIN) < at(WITHIN) * SETTLED_WIDE && at(WITHIN) >= HIGH) return "sharp";
    // What rises slowly is a soft edge only if it rises to something, by way of mixtures.
    if (!this.inwards(qx, qy, ux, uy, 0, "soft") || apart(this.art, this.back) < HIGH) return "sharp";
    const half = this.colourAt(Math.round(qx + ux * WITHIN), Math.round(qy + uy * WITHIN));
    return half && mixture(half, this.art, this.back).off <= OFF_LINE ? "soft" : "sharp";
  }

  /**
   * Whether (x, y) has only thinner mixtures between itself and the background. Where an even colour lies between,
   * that is the art's own outline, and what is further in has nothing of the background.
   */
  thinsOutwards(x: number, y: number, ux: number, uy: number): boolean {
    let last = this.distanceAt(x, y, 0);
    for (let step = 1; step <= REACH.sharp; step++) {
      const d = this.distanceAt(Math.round(x - ux * step), Math.round(y - uy * step), 0);
      if (d < HIGH) return true; // nothing so faint is an outline
      if (d * SETTLED > last) return false;
      last = d;
    }
    return true;
  }

  /**
   * Sets `art` to what the edge climbs to from (x, y); false when it is already all art, or when there is no top.
   * @param depth  pixels from the last taken one; 0 for a taken one itself
   */
  inwards(x: number, y: number, ux: number, uy: number, depth: number, edge: Edge): boolean {
    const at = (step: number, radius: number): number =>
      this.distanceAt(Math.round(x + ux * step), Math.round(y + uy * step), radius);
    return edge === "sharp" ? this.climbSharp(at, depth === 0) : this.climbSoft(at, depth);
  }

  private climbSharp(at: At, fromTaken: boolean): boolean {
    let [best, found] = [fromTaken ? 1 : at(0, 0), false];
    for (let step = 1; step <= REACH.sharp + 1; step++) {
      const d = at(step, 0);
      if (d < 0) break;
      if (d < best * SETTLED) {
        if (best >= HIGH) break;
        continue; // too faint to be the art; what is further in may stand out yet
      }
      [best, found] = [d, true];
      this.art.set(this.mean);
    }
    return found;
  }

  private climbSoft(at: At, depth: number): boolean {
    const { art, mean } = this;
    const k = depth + this.tail;
    let p = 0;
    let best = depth === 0 ? 0 : at(0, radiusFor(k >> 1));
    if (depth >= 4 && at(-depth >> 1, radiusFor(k >> 1)) > THINNER * best) return false;
    let found = false;
    for (; best < INDISTINCT; found = true) {
      if (++p > PASSED) return false;
      best = at(p, 0);
      if (best < 0) return false;
      art.set(mean);
    }
    const { peak } = this;
    while (k + p <= REACH.soft) {
      const ahead = Math.max(2, (k + p) >> 1);
      const stride = Math.max(1, ahead >> 2);
      let [highest, top, last] = [best, p, p];
      for (let step = p + stride; step <= p + ahead; step += stride) {
        const d = at(step, radiusFor(ahead));
        if (d < 0) {
          // Still rising where the art ends: there is no top to be seen.
          if (top === last) return false;
          break;
        }
        last = step;
        if (d <= highest) continue;
        [highest, top] = [d, step];
        peak.set(mean);
      }
      if (highest < best * LEVEL) return found;
      art.set(peak);
      found = true;
      if (highest < best * (ahead < 4 ? SETTLED : SETTLED_WIDE)) return true;
      best = highest;
      p = top;
    }
    return false;
  }

  /** The colour of the first pixel inwards that is no longer the background's. */
  private firstDistinct(qx: number, qy: number, ux: number, uy: number) {
    let colour: readonly [number, number, number] | null = null;
    for (let step = 1; step <= PASSED; step++) {
      const next = this.colourAt(Math.round(qx + ux * step), Math.round(qy + uy * step));
      if (!next) break;
      colour = next;
      if (apart(next, this.back) >= INDISTINCT) break;
    }
    return colour;
  }

  /** A step or two further out than the last taken pixel, which may be mixed itself. */
  private backgroundAt(qx: number, qy: number, ux: number, uy: number, off: number, out: Float64Array): void {
    const { width, height, data } = this.source;
    let count = 0;
    out.fill(0);
    for (let step = off; step >= 0 && count < 2; step--) {
      const [x, y] = [Math.round(qx - ux * step), Math.round(qy - uy * step)];
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      const j = y * width + x;
      if (this.taken[j] === 0) continue;
      for (let k = 0; k < 3; k++) out[k] += data[j * 4 + k];
      count++;
    }
    for (let k = 0; k < 3; k++) out[k] /= Math.max(1, count);
  }

  private thinEnd(qx: number, qy: number, ux: number, uy: number, most: number, under: number): number {
    if (under < DRIFT) return 0;
    for (let step = 0; step < most; step++) {
      const c = this.colourAt(Math.round(qx - ux * step), Math.round(qy - uy * step));
      if (!c || apart(c, this.back) <= under) return step;
    }
    return most;
  }

  private colourAt(x: number, y: number): readonly [number, number, number] | null {
    const { width, height, data } = this.source;
    if (x < 0 || y < 0 || x >= width || y >= height) return null;
    const o = (y * width + x) * 4;
    return [data[o], data[o + 1], data[o + 2]];
  }

  /** Distance from the background of the mean about a pixel of the art, which is left in `mean`; −1 outside the art. */
  private distanceAt(x: number, y: number, radius: number): number {
    const { width, height } = this.source;
    const { mean, words } = this;
    if (x < 0 || y < 0 || x >= width || y >= height) return -1;
    const own = words[y * width + x];
    if (own === 0) return -1;
    if (radius === 0) {
      mean[0] = own & 255;
      mean[1] = (own >>> 8) & 255;
      mean[2] = (own >>> 16) & 255;
      return apart(mean, this.back);
    }
    // Red and blue are summed in one number, green in another; what is no art adds nothing, and is not counted.
    let redBlue = 0;
    let green = 0;
    let count = 0;
    const right = x + radius < width ? x + radius : width - 1;
    const foot = y + radius < height ? y + radius : height - 1;
    const left = x < radius ? 0 : x - radius;
    // Nine pixels even out grain as well as all twenty-five of the larger area do.
    const stride = radius > 1 ? radius : 1;
    for (let v = y < radius ? 0 : y - radius; v <= foot; v += stride) {
      const end = v * width + right;
      for (let i = v * width + left; i <= end; i += stride) {
        const word = words[i];
        redBlue += word & 0xff00ff;
        green += (word >>> 8) & 255;
        count += word >>> 31;
      }
    }
    mean[0] = (redBlue & 0xffff) / count;
    mean[1] = green / count;
    mean[2] = (redBlue >>> 16) / count;
    return apart(mean, this.back);
  }
}

/** What is art as one word a pixel, its colour; 0 elsewhere. So it is read at once, and not from three planes. */
export function* artWords({
  source,
  data,
  taken,
}: Pick<Clearing, "source" | "data" | "taken">): Work<Uint32Array> {
  const from = wordsOf(source.data);
  const words = new Uint32Array(from.length);
  yield* inStretches(from.length, (begin, end) => {
    for (let i = begin; i < end; i++)
      if (taken[i] === 0 && data[i * 4 + 3] !== 0) words[i] = from[i] | 0xff000000;
  });
  return words;
}

/** Over long stretches small areas are compared, so that the grain of paint does not end a climb. */
const radiusFor = (ahead: number): number => (ahead < 4 ? 0 : ahead < 10 ? 1 : 2);

/** Distance of two colours. @param from  where the first one's three numbers begin */
export function apart(a: ArrayLike<number>, b: ArrayLike<number>, from = 0): number {
  const r = a[from] - b[0];
  const g = a[from + 1] - b[1];
  const l = a[from + 2] - b[2];
  return Math.sqrt(r * r + g * g + l * l);
}
