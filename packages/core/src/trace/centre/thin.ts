import { type Work } from "../../maths/work";

const PIXELS_AT_ONCE = 1 << 16;

/**
 * Thins shapes to lines one pixel wide along their middles, joined as the shapes were. Pixels at the edge go, side after
 * side in turn, as long as nothing is parted by it and no end is shortened.
 *
 * @param mask  width x height bytes, 0 or 1; replaced by the result. Pixels at the picture's edge count as bare
 * @see Guo & Hall, "Parallel thinning with two-subiteration algorithms", CACM 32, 1989, algorithm A1
 */
export function* thin(mask: Uint8Array, width: number, height: number): Work<void> {
  for (let x = 0; x < width; x++) mask[x] = mask[(height - 1) * width + x] = 0;
  for (let y = 0; y < height; y++) mask[y * width] = mask[y * width + width - 1] = 0;
  const around = [-width, -width + 1, 1, width + 1, width, width - 1, -1, -width - 1];
  let border: number[] = [];
  for (let i = width + 1; i < mask.length - width - 1; i++) {
    if (i % PIXELS_AT_ONCE === 0) yield (0.3 * i) / mask.length;
    if (mask[i] && around.some((d) => !mask[i + d])) border.push(i);
  }
  const queued = new Uint8Array(mask.length);
  let done = 0;
  for (let quiet = 0, odd = false; quiet < 2; odd = !odd) {
    const gone: number[] = [];
    for (const i of border) {
      if (++done % PIXELS_AT_ONCE === 0) yield 0.5;
      if (mask[i] && goes(mask, i, around, odd)) gone.push(i);
    }
    for (const i of gone) mask[i] = 0;
    quiet = gone.length === 0 ? quiet + 1 : 0;
    // What may go next lies beside what is bare; what is looked at once stays on the list until it goes.
    const next: number[] = [];
    const queue = (i: number): void => {
      if (!mask[i] || queued[i]) return;
      queued[i] = 1;
      next.push(i);
    };
    for (const i of border) {
      if (++done % PIXELS_AT_ONCE === 0) yield 0.5;
      queue(i);
    }
    for (const i of gone) {
      if (++done % PIXELS_AT_ONCE === 0) yield 0.5;
      for (const d of around) queue(i + d);
    }
    for (const i of next) queued[i] = 0;
    border = next;
  }
}

function goes(m: Uint8Array, i: number, a: readonly number[], odd: boolean): boolean {
  const [n, ne, e, se, s, sw, w, nw] = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => m[i + a[k]]);
  const parts = (+!n & (ne | e)) + (+!e & (se | s)) + (+!s & (sw | w)) + (+!w & (nw | n));
  if (parts !== 1) return false;
  const one = (nw | n) + (ne | e) + (se | s) + (sw | w);
  const other = (n | ne) + (e | se) + (s | sw) + (w | nw);
  const least = Math.min(one, other);
  if (least < 2 || least > 3) return false;
  return (odd ? (s | sw | +!nw) & w : (n | ne | +!se) & e) === 0;
}
