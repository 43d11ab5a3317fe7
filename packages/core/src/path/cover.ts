import { rowsAtOnce, type Work } from "../maths/work";

/**
 * How much of each pixel a closed polygon covers, 0..255, by the exact area: every edge adds the trapezoid to its
 * right, pixel by pixel, and a sum along the row gives the cover. Where the polygon crosses itself, what is wound
 * round twice counts as covered.
 *
 * @param points  in pixels, origin top left
 * @see Catmull, "A Hidden-Surface Algorithm with Anti-Aliasing", SIGGRAPH 1978
 */
export const coverOfPolygon = (
  points: readonly (readonly [number, number])[],
  width: number,
  height: number,
): Work<Uint8Array> => coverOfRings([Float64Array.from(points.flat())], width, height);

/**
 * The same of an area bounded by rings, holes running the other way round than what they are in.
 *
 * @param rings  x, y of every corner in pixels
 */
export function* coverOfRings(
  rings: readonly Float64Array[],
  width: number,
  height: number,
): Work<Uint8Array> {
  const area = new Float64Array(width * height + 1);
  for (const [done, ring] of rings.entries())
    for (let k = 0; k < ring.length; k += 2) {
      if (k % 64 === 0) yield (0.3 * (done + k / ring.length)) / rings.length;
      const [ax, ay] = [ring[k], ring[k + 1]];
      const next = (k + 2) % ring.length;
      const [bx, by] = [ring[next], ring[next + 1]];
      addEdge(area, width, height, ax, ay, bx, by);
    }
  const cover = new Uint8Array(width * height);
  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.3 + (0.7 * y) / height;
    let sum = 0;
    for (let x = 0; x < width; x++, i++) {
      sum += area[i];
      cover[i] = Math.round(255 * Math.min(1, Math.abs(sum)));
    }
  }
  return cover;
}

/** Adds an edge to the sums along rows that make the cover; downwards it counts more, upwards less. */
export function addEdge(
  area: Float64Array | Float32Array,
  width: number,
  height: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
  if (ay === by) return;
  const sign = ay < by ? 1 : -1;
  const [tx, ty, fx, fy] = sign > 0 ? [ax, ay, bx, by] : [bx, by, ax, ay];
  const slope = (fx - tx) / (fy - ty);
  for (let y = Math.max(0, Math.floor(ty)); y < Math.min(height, Math.ceil(fy)); y++) {
    const [y0, y1] = [Math.max(y, ty), Math.min(y + 1, fy)];
    let x0 = tx + (y0 - ty) * slope;
    let x1 = tx + (y1 - ty) * slope;
    if (x0 > x1) [x0, x1] = [x1, x0];
    const tall = (y1 - y0) * sign;
    // Left of the picture the whole row is to the right of the edge; right of it nothing is.
    if (x1 <= 0) {
      area[y * width] += tall;
      continue;
    }
    if (x0 >= width) continue;
    const wide = x1 - x0;
    let before = 0; // share of the edge's height that lies left of pixel x
    let rest = 0; // what pixel x - 1 leaves for pixel x
    if (x0 < 0) {
      before = -x0 / wide;
      area[y * width] += tall * before;
      x0 = 0;
    }
    for (let x = Math.floor(x0); x < width; x++) {
      const inside = Math.min(x + 1, x1);
      const from = Math.max(x, x0);
      const here = wide < 1e-12 ? 1 : (inside - from) / wide; // share of the height within this pixel
      const right = x + 1 - (from + inside) / 2; // mean part of the pixel to the right of the edge
      area[y * width + x] += tall * here * right + rest;
      rest = tall * here * (1 - right);
      if (x1 <= x + 1) {
        if (x + 1 < width) area[y * width + x + 1] += rest;
        break;
      }
    }
  }
}
