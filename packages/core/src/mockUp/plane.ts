import { homographyOf, seenAt } from "../maths/homography";
import { type Point, type Surface } from "./surface";

/** A flat area as a camera sees it: mm of the area from the middle of its upper edge. */
export interface Plane {
  /** Clockwise from the upper left, in pixels. */
  readonly corners: readonly Point[];
  readonly widthMm: number;
  readonly heightMm: number;
}

const cornersOf = ({ widthMm: w, heightMm: h }: Omit<Plane, "corners">): Point[] => [
  [-w / 2, 0],
  [w / 2, 0],
  [w / 2, h],
  [-w / 2, h],
];

/** @returns null where three of the corners lie in one line */
export function planeSurface(plane: Plane): Surface | null {
  const own = cornersOf(plane);
  const [to, back] = [homographyOf(own, plane.corners), homographyOf(plane.corners, own)];
  if (!to || !back) return null;
  return {
    seen: (x, y) => seenAt(to, x, y),
    at: (x, y, into) => {
      const w = back[6] * x + back[7] * y + back[8];
      if (w <= 0) return false; // behind the eye
      into[0] = (back[0] * x + back[1] * y + back[2]) / w;
      into[1] = (back[3] * x + back[4] * y + back[5]) / w;
      return true;
    },
  };
}

/** Cloth as nine points tell it: the corners of a three by three grid, row by row. */
export interface Grid {
  readonly points: readonly Point[];
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Of the nine, the corners, clockwise from the upper left. */
export const cornersOfGrid = (points: readonly Point[]): Point[] => [
  points[0],
  points[2],
  points[8],
  points[6],
];

/** Values of the three parabolas that are 1 at one of 0, 1/2, 1 and 0 at the others. */
const parabolas = (t: number): [number, number, number] => [
  (1 - t) * (1 - 2 * t),
  4 * t * (1 - t),
  t * (2 * t - 1),
];
const slopes = (t: number): [number, number, number] => [4 * t - 3, 4 - 8 * t, 4 * t - 1];

/** Steps to find the place of the cloth that a pixel shows; each doubles the digits that are right. */
const MOST_STEPS = 8;

/**
 * Bent cloth: what a camera sees of the plane through its corners, and over that a bending through all nine points that is
 * of the second degree along each side.
 * @see Coons, "Surfaces for computer-aided design of space forms", 1967, for patches through points of a grid
 */
export function clothSurface({ points, widthMm: w, heightMm: h }: Grid): Surface | null {
  const unit: Point[] = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ];
  const corners = cornersOfGrid(points);
  const [to, back] = [homographyOf(unit, corners), homographyOf(corners, unit)];
  if (!to || !back) return null;
  const off = points.map(([x, y], k): Point => {
    const [px, py] = seenAt(to, (k % 3) / 2, Math.floor(k / 3) / 2);
    return [x - px, y - py];
  });
  const seen = (s: number, t: number): [number, number] => {
    const [a, b] = [parabolas(s), parabolas(t)];
    let [x, y] = seenAt(to, s, t);
    for (let k = 0; k < 9; k++) {
      const weight = a[k % 3] * b[(k / 3) | 0];
      x += weight * off[k][0];
      y += weight * off[k][1];
    }
    return [x, y];
  };
  return {
    seen: (x, y) => seen(x / w + 0.5, y / h),
    at: (x, y, into) => {
      let [s, t] = seenAt(back, x, y);
      // Far outside there is no cloth, and the bending says nothing.
      if (!(s > -0.75 && s < 1.75 && t > -0.75 && t < 1.75)) return false;
      for (let step = 0; step < MOST_STEPS; step++) {
        const [a, b, da, db] = [parabolas(s), parabolas(t), slopes(s), slopes(t)];
        const d = to[6] * s + to[7] * t + to[8];
        const [px, py] = [(to[0] * s + to[1] * t + to[2]) / d, (to[3] * s + to[4] * t + to[5]) / d];
        let [fx, fy] = [px - x, py - y];
        let [xs, xt] = [(to[0] - px * to[6]) / d, (to[1] - px * to[7]) / d];
        let [ys, yt] = [(to[3] - py * to[6]) / d, (to[4] - py * to[7]) / d];
        for (let k = 0; k < 9; k++) {
          const [i, j] = [k % 3, (k / 3) | 0];
          const [ox, oy] = off[k];
          const [v, vs, vt] = [a[i] * b[j], da[i] * b[j], a[i] * db[j]];
          fx += v * ox;
          fy += v * oy;
          xs += vs * ox;
          ys += vs * oy;
          xt += vt * ox;
          yt += vt * oy;
        }
        const det = xs * yt - xt * ys;
        if (Math.abs(det) < 1e-12) return false;
        const [ds, dt] = [(fx * yt - fy * xt) / det, (fy * xs - fx * ys) / det];
        s -= ds;
        t -= dt;
        if (ds * ds + dt * dt < 1e-14) break;
      }
      if (!(s > -0.75 && s < 1.75 && t > -0.75 && t < 1.75)) return false;
      into[0] = (s - 0.5) * w;
      into[1] = t * h;
      return true;
    },
  };
}
