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
