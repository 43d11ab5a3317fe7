import { workSlice, rowsAtOnce, type Work } from "../maths/work";
import { type Clearing } from "./clearing";
import { EdgeCells } from "./edgeCells";
import { freed, mixture } from "../colour/mixture";
import { apart, artWords, EdgeWalk, HIGH, OFF_LINE, REACH, SETTLED } from "./edgeWalk";
import { Mixtures, type Mixture } from "./mixtures";

/** Shares of art below this in taken pixels, and above its complement in kept ones, are noise. */
const NOISE = 0.06;
/** In the thin end of a soft edge smaller shares are seen: its neighbours have them too. */
const NOISE_IN_TAIL = 0.02;
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
/** Pixels of the rim between two slices. */
const AT_ONCE = 2048;
/** Squared distance in code values under which art and background are one colour. */
const ONE_COLOUR = 64;

type Colour = ArrayLike<number>;

/** A copy that stays when the walk goes on. */
const colourOf = (c: Colour): Colour => [c[0], c[1], c[2]];

/** Art that hardly stands out from its background is likely the edge's own grain. */
const isFaint = ({ art, back }: Mixture): boolean => apart(art, back) < HIGH;

/**
 * Unmixes what is left of the old background at the rim. A rim pixel is a mixture of the background just outside
 * it and the art just inside; its share of art becomes its cover, and the background is taken out of its
 * colour. The rim is followed inwards from the taken background for as long as pixels are mixed: a pixel or two
 * where the edge is sharp, many where it is soft. Pixels that are all art are not touched; taken pixels that belong
 * to the edge get back the share of art they had.
 *
 * @see EdgeWalk
 * @see Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984 (the mixture that is solved for)
 */
export function* unmixFringe(clearing: Clearing): Work<void> {
  const { source, data, taken, held } = clearing;
  const { width, height, data: from } = source;
  const isArt = (i: number): boolean => taken[i] === 0 && data[i * 4 + 3] !== 0;
  const walk = new EdgeWalk(clearing, yield* workSlice(artWords(clearing), 0, 0.05));
  const nearest = new Int32Array(width * height); // index + 1 of the nearest taken pixel, for pixels of the rim
  const square = new Uint16Array(width * height); // squared distance from it
  const waiting: number[][] = []; // pixels of the rim by that distance
  const outer: number[] = [];
  const cells = new EdgeCells(width, height);
  const found = new Mixtures(width * height);

  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0, told = 0; y < height; y++) {
    if (y % atOnce === 0 || outer.length > told) {
      told = outer.length + AT_ONCE / 4;
      yield (0.5 * y) / height;
    }
    for (let x = 0; x < width; x++, i++) {
      if (taken[i] === 0) continue;
      const touches =
        (x > 0 && isArt(i - 1)) ||
        (x + 1 < width && isArt(i + 1)) ||
        (y > 0 && isArt(i - width)) ||
        (y + 1 < height && isArt(i + width));
      if (!touches) continue;
      outer.push(i);
      around(i, (j) => {
        if (isArt(j)) tell(j, i);
      });
      const way = inwardsAt(i);
      if (way) cells.count(x, y, walk.kindAt(x, y, way[0], way[1]));
    }
  }

  let done = 0;
  for (let d = 1; d < waiting.length; d++)
    for (const i of waiting[d] ?? []) {
      if (++done % AT_ONCE === 0) yield 0.5 + (0.2 * d) / waiting.length;
      if (square[i] !== d || (held && held[i] >= 128)) continue;
      const q = nearest[i] - 1;
      if (isMixed(i, q))
        around(i, (j) => {
          if (isArt(j)) tell(j, q);
        });
    }
  for (let d = waiting.length - 1; d >= 1; d--)
    for (const i of waiting[d] ?? []) {
      if (++done % AT_ONCE === 0) yield 0.9 - (0.2 * d) / waiting.length;
      if (square[i] === d) asInside(i);
    }
  for (const i of outer) {
    if (++done % AT_ONCE === 0) yield 0.9;
    giveBack(i);
  }
  for (const [i, given] of found) {
    if (++done % AT_ONCE === 0) yield 0.95;
    const art = wholeArt(i, given);
    const share = art === given.art ? given.share : (shareOf(i, art, given.back) ?? given.share);
    set(i, share < NOISE_IN_TAIL ? 0 : share, data[i * 4 + 3], art, given.back);
  }

  /**
   * The colour of the art behind a mixed pixel. The walk inwards takes the last colour it came to. Along an edge that is
   * nearly level with the rows, that colour can itself be a mixture. It is one when two things hold: a pixel near by differs
   * more from the background, and the colour lies on the line between that pixel and the background; and hardly any art has
   * the colour itself. Then the near-by pixel's colour is the art's.
   */
  function wholeArt(i: number, { art, back }: Pick<Mixture, "art" | "back">): Colour {
    const [x, y] = [i % width, Math.floor(i / width)];
    const own = apart(art, back);
    let [like, most, at] = [0, MORE_WHOLE * own, -1];
    for (let v = Math.max(0, y - BESIDE_WHOLE); v <= Math.min(height - 1, y + BESIDE_WHOLE); v++)
      for (let u = Math.max(0, x - BESIDE_WHOLE); u <= Math.min(width - 1, x + BESIDE_WHOLE); u++) {
        const j = v * width + u;
        if (!isArt(j) || found.has(j)) continue;
        const stands = apart(from, back, j * 4);
        if (apart(from, art, j * 4) < LIKE * own) like++;
        if (stands > most) [most, at] = [stands, j * 4];
      }
    if (at < 0 || like >= LIKE_ENOUGH) return art;
    const whole = [from[at], from[at + 1], from[at + 2]];
    return mixture(art, whole, back).off <= OFF_LINE ? whole : art;
  }

  function around(i: number, act: (j: number) => void): void {
    const x = i % width;
    const [top, foot] = [i >= width ? -width : 0, i + width < taken.length ? width : 0];
    for (let row = top; row <= foot; row += width) {
      if (x > 0) act(i + row - 1);
      if (row !== 0) act(i + row);
      if (x + 1 < width) act(i + row + 1);
    }
  }

  /** Tells pixel j of a taken pixel q that may be its nearest. */
  function tell(j: number, q: number): void {
    const [dx, dy] = [(j % width) - (q % width), Math.floor(j / width) - Math.floor(q / width)];
    const d = dx * dx + dy * dy;
    if (square[j] !== 0 && square[j] <= d) return;
    const reach = d <= REACH.sharp ** 2 ? REACH.sharp : REACH[cells.kindAt(q % width, Math.floor(q / width))];
    if (d > reach * reach) return;
    square[j] = d;
    nearest[j] = q + 1;
    (waiting[d] ??= []).push(j);
  }

  /** The way from a taken pixel to the art it touches; null in a gap between art on both sides. */
  function inwardsAt(i: number): readonly [number, number] | null {
    const [x, y] = [i % width, Math.floor(i / width)];
    const dx = Number(x + 1 < width && isArt(i + 1)) - Number(x > 0 && isArt(i - 1));
    const dy = Number(y + 1 < height && isArt(i + width)) - Number(y > 0 && isArt(i - width));
    if (dx === 0 && dy === 0) return null;
    const length = Math.sqrt(dx * dx + dy * dy);
    return [dx / length, dy / length];
  }

  /** Solves a rim pixel by way of the taken pixel nearest to it; false when it is all art. */
  function isMixed(i: number, q: number): boolean {
    const [x, y] = [i % width, Math.floor(i / width)];
    const [qx, qy] = [q % width, Math.floor(q / width)];
    const depth = Math.sqrt(square[i]);
    const [ux, uy] = [(x - qx) / depth, (y - qy) / depth];
    walk.outwards(qx, qy, ux, uy);
    const edge = cells.kindAt(qx, qy);
    if (edge === "sharp" && !walk.thinsOutwards(x, y, ux, uy)) return false;
    if (edge === "sharp" && isThin(qx, qy, ux, uy)) {
      const strongest = strongestNear(x, y, walk.back);
      if (strongest) return note(i, strongest, colourOf(walk.back));
    }
    return walk.inwards(x, y, ux, uy, depth, edge) && note(i, colourOf(walk.art), colourOf(walk.back));
  }

  /** Whether the art, entered at a taken pixel, is left again so soon that it has no inside to walk to. */
  function isThin(qx: number, qy: number, ux: number, uy: number): boolean {
    for (let step = 2; step <= THIN + 1; step++) {
      const [u, v] = [Math.round(qx + ux * step), Math.round(qy + uy * step)];
      if (u < 0 || v < 0 || u >= width || v >= height || !isArt(v * width + u)) return true;
    }
    return false;
  }

  /** The colour of a thin line where it stands out most, near by along it; null where that is here. */
  function strongestNear(x: number, y: number, back: Colour): Colour | null {
    const own = (y * width + x) * 4;
    let [most, at] = [SETTLED * apart(from, back, own), -1];
    for (let v = Math.max(0, y - ALONG); v <= Math.min(height - 1, y + ALONG); v++)
      for (let u = Math.max(0, x - ALONG); u <= Math.min(width - 1, x + ALONG); u++) {
        const j = v * width + u;
        if (!isArt(j)) continue;
        const stands = apart(from, back, j * 4);
        if (stands > most) [most, at] = [stands, j * 4];
      }
    if (at < 0) return null;
    const art = [from[at], from[at + 1], from[at + 2]];
    return mixture(from, art, back, own).off <= OFF_LINE ? art : null;
  }

  function note(i: number, art: Colour, back: Colour): boolean {
    const share = shareOf(i, art, back);
    if (share === null || share > 1 - NOISE) return false;
    found.set(i, { share, art, back });
    return true;
  }

  /** What lies outside a mixture is a mixture of the same, where grain or a walk along the edge did not show it. */
  function asInside(i: number): void {
    if (held && held[i] >= 128) return;
    const soft = cells.kindAt(i % width, Math.floor(i / width)) === "soft";
    let inside = -1;
    around(i, (j) => {
      if (square[j] > square[i] && found.has(j) && (inside < 0 || square[j] > square[inside])) inside = j;
    });
    const own = found.get(i);
    if (inside < 0 && (own ? isFaint(own) : isLikeGround(i))) inside = strongBeside(i);
    if (inside < 0) return;
    const { art, back } = found.get(inside)!;
    if (own && apart(art, back) <= SETTLED * apart(own.art, own.back)) return;
    if (soft || isBetween(i, art, back)) note(i, art, back);
  }

  /** Whether a pixel hardly differs from the taken one nearest to it. */
  function isLikeGround(i: number): boolean {
    const q = (nearest[i] - 1) * 4;
    return apart(from, [from[q], from[q + 1], from[q + 2]], i * 4) < HIGH;
  }

  /** At the thin end of an edge grain leaves faint pixels that no mixture touches: one near by, or −1. */
  function strongBeside(i: number): number {
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let v = Math.max(0, y - BESIDE); v <= Math.min(height - 1, y + BESIDE); v++)
      for (
        let j = v * width + Math.max(0, x - BESIDE);
        j <= v * width + Math.min(width - 1, x + BESIDE);
        j++
      ) {
        const near = found.get(j);
        if (near && !isFaint(near) && apart(from, near.back, i * 4) < HIGH) return j;
      }
    return -1;
  }

  /** Gives a taken pixel that touches the art its share of it, and the thin end of a soft edge theirs. */
  function giveBack(i: number): void {
    const way = inwardsAt(i);
    if (!way) return;
    const [x, y] = [i % width, Math.floor(i / width)];
    walk.outwards(x, y, ...way);
    const edge = cells.kindAt(x, y);
    let beside = -1;
    around(i, (j) => {
      const of = found.get(j);
      if (of && of.share > (found.get(beside)?.share ?? 0) && isBetween(i, of.art, of.back)) beside = j;
    });
    if (beside < 0 && !walk.inwards(x, y, ...way, 0, edge)) return;
    const { back } = found.get(beside) ?? walk;
    const art =
      beside < 0
        ? wholeArt(i, { art: colourOf(walk.art), back: colourOf(walk.back) })
        : found.get(beside)!.art;
    const tail = edge === "soft" ? walk.tail : 0;
    let front = [i];
    for (let step = 0; step <= tail && front.length > 0; step++) {
      const next: number[] = [];
      for (const j of front) {
        if (data[j * 4 + 3] !== 0 || taken[j] === 0) continue;
        const share = shareOf(j, art, back);
        if (share === null || share < (tail > 0 ? NOISE_IN_TAIL : NOISE)) continue;
        set(j, share, from[j * 4 + 3], art, back);
        if (step < tail) around(j, (n) => next.push(n));
      }
      front = next;
    }
  }

  /** How much of a pixel is art, 0..1; null where art and background are one colour. */
  function shareOf(i: number, art: Colour, back: Colour): number | null {
    const { share, whole } = mixture(from, art, back, i * 4);
    return whole < ONE_COLOUR ? null : Math.min(1, Math.max(0, share));
  }

  /** Whether a pixel's colour lies near the line between two. */
  function isBetween(i: number, art: Colour, back: Colour): boolean {
    return mixture(from, art, back, i * 4).off <= OFF_LINE;
  }

  function set(i: number, share: number, cover: number, art: Colour, back: Colour): void {
    const o = i * 4;
    const alpha = Math.round(share * cover);
    data[o + 3] = alpha;
    if (alpha === 0) return;
    for (let k = 0; k < 3; k++) {
      const own = freed(from[o + k], back[k], share);
      // The thinner the share, the more its own colour is noise; then the art's is the better guess.
      const trust = share * share;
      data[o + k] = Math.max(0, Math.min(255, Math.round(own * trust + art[k] * (1 - trust))));
    }
  }
}
