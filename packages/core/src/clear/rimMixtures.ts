import { freed, mixture } from "../colour/mixture";
import { type Clearing } from "./clearing";
import { apart, HIGH, OFF_LINE, SETTLED } from "./edgeWalk";
import { Mixtures, type Mixture } from "./mixtures";
import { type Rim } from "./rim";

// Thresholds: what they decide is measured by `npm run rims`.

/** Shares of art below this in taken pixels, and above its complement in kept ones, are noise. */
export const NOISE = 0.06;
/** How far off a mixture may be that a pixel left alone by grain is one of. */
const BESIDE = 4;
/** Art of no more pixels across is a thin line; its colour is looked for so far along it. */
const THIN = 3;
const ALONG = 3;
/** Whole art is looked for so far about a mixture, and stands out by so much more. */
const BESIDE_WHOLE = 2;
const MORE_WHOLE = 1.25;
/** So many pixels within this share of a colour's own height make it a colour of the art. */
const LIKE_ENOUGH = 3;
const LIKE = 0.12;
/** Squared distance in code values under which art and background are one colour. */
const ONE_COLOUR = 64;

export type Colour = ArrayLike<number>;

/** Art that hardly stands out from its background is likely the edge's own grain. */
export const isFaint = ({ art, back }: Mixture): boolean => apart(art, back) < HIGH;

/** What each pixel of a rim is mixed of: how much of which art over which background. */
export class RimMixtures {
  readonly found: Mixtures;
  private readonly from: Clearing["source"]["data"];
  private readonly data: Clearing["data"];

  constructor(
    private readonly rim: Rim,
    { source, data }: Clearing,
  ) {
    [this.from, this.data] = [source.data, data];
    this.found = new Mixtures(rim.width * rim.height);
  }

  /**
   * The colour of the art behind a mixed pixel. The walk inwards takes the last colour it came to. Along an edge that is
   * nearly level with the rows, that colour can itself be a mixture. It is one when two things hold: a pixel near by differs
   * more from the background, and the colour lies on the line between that pixel and the background; and hardly any art has
   * the colour itself. Then the near-by pixel's colour is the art's.
   */
  wholeArt(i: number, { art, back }: Pick<Mixture, "art" | "back">): Colour {
    const [x, y] = [i % this.rim.width, Math.floor(i / this.rim.width)];
    const own = apart(art, back);
    let [like, most, at] = [0, MORE_WHOLE * own, -1];
    for (let v = Math.max(0, y - BESIDE_WHOLE); v <= Math.min(this.rim.height - 1, y + BESIDE_WHOLE); v++)
      for (let u = Math.max(0, x - BESIDE_WHOLE); u <= Math.min(this.rim.width - 1, x + BESIDE_WHOLE); u++) {
        const j = v * this.rim.width + u;
        if (!this.rim.isArt(j) || this.found.has(j)) continue;
        const stands = apart(this.from, back, j * 4);
        if (apart(this.from, art, j * 4) < LIKE * own) like++;
        if (stands > most) [most, at] = [stands, j * 4];
      }
    if (at < 0 || like >= LIKE_ENOUGH) return art;
    const whole = [this.from[at], this.from[at + 1], this.from[at + 2]];
    return mixture(art, whole, back).off <= OFF_LINE ? whole : art;
  }

  /** Whether the art, entered at a taken pixel, is left again so soon that it has no inside to walk to. */
  isThin(qx: number, qy: number, ux: number, uy: number): boolean {
    for (let step = 2; step <= THIN + 1; step++) {
      const [u, v] = [Math.round(qx + ux * step), Math.round(qy + uy * step)];
      if (
        u < 0 ||
        v < 0 ||
        u >= this.rim.width ||
        v >= this.rim.height ||
        !this.rim.isArt(v * this.rim.width + u)
      )
        return true;
    }
    return false;
  }

  /** The colour of a thin line where it stands out most, near by along it; null where that is here. */
  strongestNear(x: number, y: number, back: Colour): Colour | null {
    const own = (y * this.rim.width + x) * 4;
    let [most, at] = [SETTLED * apart(this.from, back, own), -1];
    for (let v = Math.max(0, y - ALONG); v <= Math.min(this.rim.height - 1, y + ALONG); v++)
      for (let u = Math.max(0, x - ALONG); u <= Math.min(this.rim.width - 1, x + ALONG); u++) {
        const j = v * this.rim.width + u;
        if (!this.rim.isArt(j)) continue;
        const stands = apart(this.from, back, j * 4);
        if (stands > most) [most, at] = [stands, j * 4];
      }
    if (at < 0) return null;
    const art = [this.from[at], this.from[at + 1], this.from[at + 2]];
    return mixture(this.from, art, back, own).off <= OFF_LINE ? art : null;
  }

  note(i: number, art: Colour, back: Colour): boolean {
    const share = this.shareOf(i, art, back);
    if (share === null || share > 1 - NOISE) return false;
    this.found.set(i, { share, art, back });
    return true;
  }

  /** Whether a pixel hardly differs from the taken one nearest to it. */
  isLikeGround(i: number): boolean {
    const q = (this.rim.nearest[i] - 1) * 4;
    return apart(this.from, [this.from[q], this.from[q + 1], this.from[q + 2]], i * 4) < HIGH;
  }

  /** At the thin end of an edge grain leaves faint pixels that no mixture touches: one near by, or −1. */
  strongBeside(i: number): number {
    const [x, y] = [i % this.rim.width, Math.floor(i / this.rim.width)];
    for (let v = Math.max(0, y - BESIDE); v <= Math.min(this.rim.height - 1, y + BESIDE); v++)
      for (
        let j = v * this.rim.width + Math.max(0, x - BESIDE);
        j <= v * this.rim.width + Math.min(this.rim.width - 1, x + BESIDE);
        j++
      ) {
        const near = this.found.get(j);
        if (near && !isFaint(near) && apart(this.from, near.back, i * 4) < HIGH) return j;
      }
    return -1;
  }

  /** How much of a pixel is art, 0..1; null where art and background are one colour. */
  shareOf(i: number, art: Colour, back: Colour): number | null {
    const { share, whole } = mixture(this.from, art, back, i * 4);
    return whole < ONE_COLOUR ? null : Math.min(1, Math.max(0, share));
  }

  /** Whether a pixel's colour lies near the line between two. */
  isBetween(i: number, art: Colour, back: Colour): boolean {
    return mixture(this.from, art, back, i * 4).off <= OFF_LINE;
  }

  set(i: number, share: number, cover: number, art: Colour, back: Colour): void {
    const o = i * 4;
    const alpha = Math.round(share * cover);
    this.data[o + 3] = alpha;
    if (alpha === 0) return;
    for (let k = 0; k < 3; k++) {
      const own = freed(this.from[o + k], back[k], share);
      // The thinner the share, the more its own colour is noise; then the art's is the better guess.
      const trust = share * share;
      this.data[o + k] = Math.max(0, Math.min(255, Math.round(own * trust + art[k] * (1 - trust))));
    }
  }
}
