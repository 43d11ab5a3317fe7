import { type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { median, orientation, type Four } from "./fourLines";
import { Lens, type Point } from "./lens";
import { coloursAt } from "./planes";

// Thresholds: what they decide is measured by `npm run papers`.

/** Places along a side where its edge is looked for; the share at either end that is left out. */
const [PLACES, ENDS] = [90, 0.03];
/** Pixels either side of an edge whose means are compared; and by how many the steps go on. */
const [WINDOW, STEP] = [3, 0.5];
/** Pixels of the small picture within which an edge lies. */
const REACH = 5;
/** Bends that are tried. */
const [MOST_TRIED, TRIED] = [0.12, 17];
/** A bend is told where it brings the edges nearer to straight by this factor at least. */
const WORTH = 0.8;
/** Rounds of a fit, and of one of many that are compared. */
const [ROUNDS, QUICK] = [12, 5];
/** Half of what an edge may lie beside its line before it counts for less, in pixels. */
const LOOSE = 1.5;

interface Fit {
  /** a x + b y = c, (a, b) of length 1. */
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly off: number;
}

/**
 * Corners, to parts of a pixel, from where the edges between them lie, and the lens that makes those straight.
 * @param coarse  as they are seen, in pixels, clockwise
 * @param scale   by how many pixels those may be off
 */
export function* refined(
  picture: Rgba,
  coarse: Four["corners"],
  scale: number,
): Work<{ corners: Point[]; lens: number }> {
  let corners: readonly Point[] = coarse;
  let lens = 0;
  for (const reach of [REACH * scale, 2.5 * scale, 4]) {
    yield 0.3;
    const optic = new Lens(picture, lens);
    const sides = [0, 1, 2, 3].map((k) => edgeOf(picture, corners, k, reach, optic));
    if (sides.some((side) => side.length < PLACES / 4)) break;
    lens = bendOf(picture, sides);
    const straight = new Lens(picture, lens);
    const fits = sides.map((side) => fitted(side.map((p) => straight.straight(p))));
    const met = [3, 0, 1, 2].map((k, i) => cross(fits[k], fits[i]));
    if (met.some((at) => !at)) break;
    corners = met.map((at) => straight.seen(at!));
  }
  return { corners: [...corners], lens };
}

/** Where the edge of a side is seen, along it: as strong a step as there is from its own ground to what lies beyond. */
function edgeOf(picture: Rgba, corners: readonly Point[], side: number, reach: number, optic: Lens): Point[] {
  const [a, b] = [corners[side], corners[(side + 1) % 4]].map((p) => optic.straight(p));
  const turned = orientation(corners);
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length = Math.sqrt(dx * dx + dy * dy);
  const [nx, ny] = [(-dy / length) * turned, (dx / length) * turned];
  const place = (t: number, by: number): Point =>
    optic.seen([a[0] + t * dx + by * nx, a[1] + t * dy + by * ny]);
  const at = (t: number, by: number): readonly number[] => coloursAt(picture, ...place(t, by));
  const along = Array.from({ length: PLACES }, (_, n) => ENDS + ((1 - 2 * ENDS) * n) / (PLACES - 1));
  // What the paper has more of than what is beyond it, as most places have it.
  const beyond = Math.max(4, reach * 0.7);
  const steps = along.map((t) => {
    const [within, outside] = [at(t, beyond), at(t, -beyond)];
    return within.map((v, k) => v - outside[k]);
  });
  const way = [0, 1, 2].map((k) => median(steps.map((step) => step[k])));
  const size = Math.sqrt(way.reduce((sum, v) => sum + v * v, 0));
  if (size < 1) return [];
  const count = Math.ceil(reach / STEP);
  const found: Point[] = [];
  for (const t of along) {
    const profile = Array.from({ length: 2 * (count + 2 * WINDOW) + 1 }, (_, n) => {
      const value = at(t, (n - count - 2 * WINDOW) * STEP);
      return value.reduce((sum, v, k) => sum + (v * way[k]) / size, 0);
    });
    const taps = WINDOW / STEP;
    const rise = (n: number): number => {
      let sum = 0;
      for (let k = 1; k <= taps; k++) sum += (taps + 1 - k) * (profile[n + k] - profile[n - k]);
      return sum;
    };
    let [best, most] = [-1, 0];
    const rises = profile.map((_, n) => (n < taps || n >= profile.length - taps ? 0 : rise(n)));
    for (let n = 2 * WINDOW; n < profile.length - 2 * WINDOW; n++)
      if (rises[n] > most) [best, most] = [n, rises[n]];
    if (best < 0 || most < 0.25 * size * taps) continue;
    const [l, m, r] = [rises[best - 1], rises[best], rises[best + 1]];
    const bow = l - 2 * m + r;
    const part = bow < 0 ? Math.max(-0.5, Math.min(0.5, (l - r) / (2 * bow))) : 0;
    found.push(place(t, (best + part - count - 2 * WINDOW) * STEP));
  }
  return found;
}

/** Total least squares; what lies far off counts for less and less. @see Holland & Welsch, "Robust regression using iteratively reweighted least-squares", 1977 */
function fitted(points: readonly Point[], rounds = ROUNDS): Fit {
  let weights = points.map(() => 1);
  let fit: Fit = { a: 1, b: 0, c: 0, off: 0 };
  for (let round = 0; round < rounds; round++) {
    let [w, x, y] = [0, 0, 0];
    points.forEach(([px, py], k) => {
      w += weights[k];
      x += weights[k] * px;
      y += weights[k] * py;
    });
    [x, y] = [x / w, y / w];
    let [xx, xy, yy] = [0, 0, 0];
    points.forEach(([px, py], k) => {
      xx += weights[k] * (px - x) ** 2;
      xy += weights[k] * (px - x) * (py - y);
      yy += weights[k] * (py - y) ** 2;
    });
    // the direction across is that of the smaller of two extents
    const half = Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
    const least = (xx + yy) / 2 - half;
    const [u, v] = Math.abs(xx - least) > Math.abs(yy - least) ? [xy, least - xx] : [least - yy, xy];
    const size = Math.sqrt(u * u + v * v) || 1;
    const [a, b] = [u / size, v / size];
    const c = a * x + b * y;
    const offs = points.map(([px, py]) => Math.abs(a * px + b * py - c));
    const loose = Math.max(LOOSE, 2 * median(offs));
    weights = offs.map((off) => (off < loose ? (1 - (off / loose) ** 2) ** 2 + 1e-6 : 1e-6));
    fit = { a, b, c, off: median(offs) };
  }
  return fit;
}

function cross(p: Fit, q: Fit): [number, number] | null {
  const by = p.a * q.b - p.b * q.a;
  if (Math.abs(by) < 0.05) return null;
  return [(p.c * q.b - q.c * p.b) / by, (p.a * q.c - q.a * p.c) / by];
}

/** The bend with which all four edges lie straightest; 0 where that is hardly better. */
function bendOf(picture: Rgba, sides: readonly (readonly Point[])[]): number {
  const offWith = (bend: number): number => {
    const lens = new Lens(picture, bend);
    return sides.reduce(
      (sum, side) =>
        sum +
        fitted(
          side.map((p) => lens.straight(p)),
          QUICK,
        ).off,
      0,
    );
  };
  let [best, least] = [0, Infinity];
  const plain = offWith(0);
  for (let span = MOST_TRIED, middle = 0; span > 1e-4; span /= 5) {
    for (let k = 0; k < TRIED; k++) {
      const bend = middle + span * ((2 * k) / (TRIED - 1) - 1);
      const off = offWith(bend);
      if (off < least) [best, least] = [bend, off];
    }
    middle = best;
  }
  return least < WORTH * plain ? best : 0;
}
