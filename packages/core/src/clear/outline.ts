/** A point of an outline and its handles, relative to it; without handles it is a corner. Any one unit. */
export interface Knot {
  readonly at: readonly [number, number];
  readonly in?: readonly [number, number];
  readonly out?: readonly [number, number];
}

/** How far a quarter circle's handles reach, as a share of its radius. */
export const QUARTER = 0.5522847498;

/** An ellipse in a box, as four smooth knots. */
export function roundKnots(x: number, y: number, width: number, height: number): Knot[] {
  const [rx, ry] = [width / 2, height / 2];
  const [cx, cy] = [x + rx, y + ry];
  const [hx, hy] = [rx * QUARTER, ry * QUARTER];
  return [
    { at: [cx, y], in: [-hx, 0], out: [hx, 0] },
    { at: [x + width, cy], in: [0, -hy], out: [0, hy] },
    { at: [cx, y + height], in: [hx, 0], out: [-hx, 0] },
    { at: [x, cy], in: [0, hy], out: [0, -hy] },
  ];
}

/** A rectangle with corners of radius `rx` across and `ry` down; with none it has four corners. */
export function rectangleKnots(x: number, y: number, width: number, height: number, rx = 0, ry = 0): Knot[] {
  const [right, bottom] = [x + width, y + height];
  if (rx <= 0 || ry <= 0)
    return [{ at: [x, y] }, { at: [right, y] }, { at: [right, bottom] }, { at: [x, bottom] }];
  const [a, b] = [Math.min(rx, width / 2), Math.min(ry, height / 2)];
  const [ha, hb] = [a * QUARTER, b * QUARTER];
  return [
    { at: [x + a, y], in: [-ha, 0] },
    { at: [right - a, y], out: [ha, 0] },
    { at: [right, y + b], in: [0, -hb] },
    { at: [right, bottom - b], out: [0, hb] },
    { at: [right - a, bottom], in: [ha, 0] },
    { at: [x + a, bottom], out: [-ha, 0] },
    { at: [x, bottom - b], in: [0, hb] },
    { at: [x, y + b], out: [0, -hb] },
  ];
}

/** Parts of a curved piece, for a chord that is off by less than a hundredth of a pixel at any usual size. */
const PARTS = 64;

/** The closed outline through knots as straight pieces: cubic curves where there are handles. */
export function polygonOf(knots: readonly Knot[]): [number, number][] {
  const points: [number, number][] = [];
  knots.forEach((a, k) => {
    const b = knots[(k + 1) % knots.length];
    points.push([a.at[0], a.at[1]]);
    if (!a.out && !b.in) return;
    const [c, d] = [plus(a.at, a.out), plus(b.at, b.in)];
    for (let s = 1; s < PARTS; s++) {
      const t = s / PARTS;
      const u = 1 - t;
      const [w0, w1, w2, w3] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
      points.push([
        w0 * a.at[0] + w1 * c[0] + w2 * d[0] + w3 * b.at[0],
        w0 * a.at[1] + w1 * c[1] + w2 * d[1] + w3 * b.at[1],
      ]);
    }
  });
  return points;
}

const plus = (p: readonly [number, number], d: readonly [number, number] = [0, 0]): [number, number] => [
  p[0] + d[0],
  p[1] + d[1],
];

/**
 * How much of each pixel a closed polygon covers, 0..255, by the exact area: every edge adds the trapezoid to its
 * right, pixel by pixel, and a sum along the row gives the cover. Where the polygon crosses itself, what is wound
 * round twice counts as covered.
 *
 * @param points  in pixels, origin top left
 * @see Catmull, "A Hidden-Surface Algorithm with Anti-Aliasing", SIGGRAPH 1978
 */
export function coverOfPolygon(
  points: readonly (readonly [number, number])[],
  width: number,
  height: number,
): Uint8Array {
  const area = new Float64Array(width * height + 1);
  points.forEach(([ax, ay], k) => {
    const [bx, by] = points[(k + 1) % points.length];
    if (ay !== by) addEdge(area, width, height, ax, ay, bx, by);
  });
  const cover = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0; x < width; x++, i++) {
      sum += area[i];
      cover[i] = Math.round(255 * Math.min(1, Math.abs(sum)));
    }
  }
  return cover;
}

function addEdge(
  area: Float64Array,
  width: number,
  height: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
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
