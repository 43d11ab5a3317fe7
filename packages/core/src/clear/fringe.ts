import { rowsAtOnce, type Work } from "../maths/work";
import { type Clearing } from "./clearing";

/** How far from the taken background edge pixels may still be mixed with it. */
const REACH = 3;
/** A step inwards that changes the distance from the background by less than this share has reached the art. */
const SETTLED = 1.12;
/** Shares of art below this in taken pixels, and above its complement in kept ones, are noise. */
const NOISE = 0.06;

const OFFSETS = Array.from({ length: (2 * REACH + 1) ** 2 }, (_, k) => ({
  dx: (k % (2 * REACH + 1)) - REACH,
  dy: Math.floor(k / (2 * REACH + 1)) - REACH,
}))
  .map((o) => ({ ...o, square: o.dx * o.dx + o.dy * o.dy }))
  .filter((o) => o.square > 0 && o.square <= REACH * REACH)
  .sort((a, b) => a.square - b.square);

/**
 * Unmixes what is left of the old background at the rim. A rim pixel is a mixture of the background just outside
 * it and the art just inside; its share of art becomes its cover, and the background is taken out of its colour. The
 * art's colour is found by walking inwards for as long as the colour still moves away from the background, so
 * a pale outline that belongs to the art is met before the dark behind it, and stays. Pixels that are all art
 * are not touched; taken pixels that touch the art get back the share of art they had.
 *
 * @see Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984 (the mixture that is solved for)
 */
export function* unmixFringe(clearing: Clearing): Work<void> {
  const { source, data, taken, held } = clearing;
  const { width, height, data: from } = source;
  const nearest = new Int32Array(width * height); // index + 1 of the nearest taken pixel, for pixels of the rim
  const square = new Uint8Array(width * height);
  const rim: number[] = [];
  const outer: number[] = [];
  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.5 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if (taken[i] === 0) continue;
      const touches =
        (x > 0 && isArt(i - 1)) ||
        (x + 1 < width && isArt(i + 1)) ||
        (y > 0 && isArt(i - width)) ||
        (y + 1 < height && isArt(i + width));
      if (!touches) continue;
      outer.push(i);
      for (const { dx, dy, square: d } of OFFSETS) {
        const [u, v] = [x + dx, y + dy];
        if (u < 0 || v < 0 || u >= width || v >= height) continue;
        const j = v * width + u;
        if (!isArt(j) || (square[j] !== 0 && square[j] <= d)) continue;
        if (square[j] === 0) rim.push(j);
        square[j] = d;
        nearest[j] = i + 1;
      }
    }
  }
  function isArt(i: number): boolean {
    return taken[i] === 0 && data[i * 4 + 3] !== 0;
  }

  const art = new Float64Array(3);
  const back = new Float64Array(3);
  let n = 0;
  for (const i of rim) {
    if (n++ % 65536 === 0) yield 0.5 + (0.4 * n) / rim.length;
    if (held && held[i] >= 128) continue;
    const q = nearest[i] - 1;
    const [x, y] = [i % width, Math.floor(i / width)];
    const [qx, qy] = [q % width, Math.floor(q / width)];
    solve(i, x, y, x - qx, y - qy, qx, qy, false);
  }
  for (const i of outer) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const dx = Number(x + 1 < width && isArt(i + 1)) - Number(x > 0 && isArt(i - 1));
    const dy = Number(y + 1 < height && isArt(i + width)) - Number(y > 0 && isArt(i - width));
    if (dx !== 0 || dy !== 0) solve(i, x, y, dx, dy, x, y, true);
  }

  /** @param dx, dy  inwards; @param qx, qy  the taken pixel from which outwards the background is looked at */
  function solve(
    i: number,
    x: number,
    y: number,
    dx: number,
    dy: number,
    qx: number,
    qy: number,
    lost: boolean,
  ) {
    const length = Math.sqrt(dx * dx + dy * dy);
    const [ux, uy] = [dx / length, dy / length];
    background(qx, qy, ux, uy);
    if (!lost && !mixedOutwards(i, x, y, ux, uy)) return;
    if (!artInside(i, x, y, ux, uy, lost)) return;
    let along = 0;
    let whole = 0;
    for (let k = 0; k < 3; k++) {
      along += (from[i * 4 + k] - back[k]) * (art[k] - back[k]);
      whole += (art[k] - back[k]) * (art[k] - back[k]);
    }
    if (whole < 64) return; // art and background are one colour here
    const share = Math.min(1, Math.max(0, along / whole));
    if (lost ? share < NOISE : share > 1 - NOISE) return;
    const o = i * 4;
    const alpha = Math.round(share * (lost ? source.data[o + 3] : data[o + 3]));
    data[o + 3] = alpha;
    if (alpha === 0) return;
    for (let k = 0; k < 3; k++) {
      const own = (from[o + k] - (1 - share) * back[k]) / share;
      // The thinner the share, the more its own colour is noise; then the art's is the better guess.
      const trust = share * share;
      data[o + k] = Math.max(0, Math.min(255, Math.round(own * trust + art[k] * (1 - trust))));
    }
  }

  /** The background beside the rim: a step or two further out than the last taken pixel, which may be mixed itself. */
  function background(qx: number, qy: number, ux: number, uy: number): void {
    let count = 0;
    back.fill(0);
    for (let step = 4; step >= 0 && count < 2; step--) {
      const [bx, by] = [Math.round(qx - ux * step), Math.round(qy - uy * step)];
      if (bx < 0 || by < 0 || bx >= width || by >= height) continue;
      const j = by * width + bx;
      if (taken[j] === 0) continue;
      for (let k = 0; k < 3; k++) back[k] += from[j * 4 + k];
      count++;
    }
    for (let k = 0; k < 3; k++) back[k] /= Math.max(1, count);
  }

  /**
   * Walks outwards from pixel i: a mixture has only thinner mixtures between it and the background. Where an even
   * colour lies between, that is the art's outline, and what is further in has nothing of the background.
   */
  function mixedOutwards(i: number, x: number, y: number, ux: number, uy: number): boolean {
    let last = distance(i);
    for (let step = 1; step <= REACH; step++) {
      const [ax, ay] = [Math.round(x - ux * step), Math.round(y - uy * step)];
      if (ax < 0 || ay < 0 || ax >= width || ay >= height) return true;
      const j = ay * width + ax;
      if (taken[j] !== 0) return true;
      const d = distance(j);
      if (d * SETTLED > last) return false;
      last = d;
    }
    return true;
  }

  /** Walks inwards from pixel i; false when it is already all art. */
  function artInside(i: number, x: number, y: number, ux: number, uy: number, lost: boolean): boolean {
    let best = lost ? 1 : distance(i);
    let found = false;
    for (let step = 1; step <= REACH + 1; step++) {
      const [ax, ay] = [Math.round(x + ux * step), Math.round(y + uy * step)];
      if (ax < 0 || ay < 0 || ax >= width || ay >= height) break;
      const j = ay * width + ax;
      if (!isArt(j)) break;
      const d = distance(j);
      if (d < best * SETTLED) break;
      best = d;
      found = true;
      for (let k = 0; k < 3; k++) art[k] = from[j * 4 + k];
    }
    return found;
  }

  function distance(i: number): number {
    let sum = 0;
    for (let k = 0; k < 3; k++) sum += (from[i * 4 + k] - back[k]) * (from[i * 4 + k] - back[k]);
    return Math.sqrt(sum);
  }
}
