import { type Point } from "./lens";
import { cross, dot, USUAL_FOCAL, type Vec } from "./proportion";

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A page that bends over its width, as it would lie flat. */
export interface CurledPage {
  /** Width by height, laid flat. */
  readonly proportion: number;
  /** Its longest edges on the photograph, in pixels. */
  readonly acrossPx: number;
  readonly downPx: number;
  /** Writes where a place, in fractions of its sides, is seen. */
  readonly write: (across: number, down: number, to: Float64Array) => void;
}

/** Straight pieces that an edge is cut into. */
const PIECES = 512;

/**
 * A page whose lines from top to foot are straight and parallel in the room: a cylinder, of whatever profile. Those lines
 * meet in one point of the picture; through it each place of the upper edge has its own at the foot. As all of them are
 * equally long in the room, how far away each place is follows, and with that the page's length along the bend.
 *
 * @param top, foot  four places each on its edges, from left to right, in pixels of a straight lens
 * @param focal      of the camera, in pixels; a usual one where it is not known
 * @see Cao, Ding & Liu, "Rectifying the bound document image captured by the camera: a model based approach", ICDAR 2003
 *      (a cylinder's straight lines); Courteille et al., "Shape from shading for the digitization of curved documents", 2007
 */
export function curledPage(
  top: readonly Point[],
  foot: readonly Point[],
  photograph: Size,
  focal: number | null,
): CurledPage {
  const f = focal ?? USUAL_FOCAL * Math.max(photograph.width, photograph.height);
  const [cx, cy] = [photograph.width / 2, photograph.height / 2];
  const ray = ([x, y]: Point): Vec => [x - cx, y - cy, f];
  const [upper, lower] = [curveThrough(top), curveThrough(foot)];
  // The way from top to foot in the room: it lies in the planes through the eye and either side edge.
  const left = cross(ray(top[0]), ray(foot[0]));
  const right = cross(ray(top[3]), ray(foot[3]));
  const way = unit(cross(left, right));
  const down: Vec =
    way[0] * (foot[0][0] - top[0][0]) + way[1] * (foot[0][1] - top[0][1]) >= 0 ? way : minus(way);
  const places: Vec[] = [];
  let after = 0;
  for (let k = 0; k <= PIECES; k++) {
    const a = ray(upper(k / PIECES));
    const plane = cross(a, down);
    after = meetingAfter((t) => dot(plane, ray(lower(t))), after, k === PIECES);
    places.push(placeOf(a, ray(lower(after)), down));
  }
  const lengths = new Float64Array(PIECES + 1);
  let [acrossPx, downPx] = [0, 0];
  const seen = (p: Vec): Point => [cx + (f * p[0]) / p[2], cy + (f * p[1]) / p[2]];
  for (let k = 1; k <= PIECES; k++) {
    lengths[k] = lengths[k - 1] + size(plus(places[k], minus(places[k - 1])));
    acrossPx += away(seen(places[k]), seen(places[k - 1]));
  }
  for (const place of places) downPx = Math.max(downPx, away(seen(place), seen(plus(place, down))));
  const all = lengths[PIECES];
  let last = 0;
  return {
    proportion: all,
    ...{ acrossPx: Math.max(acrossPx, lengthOf(lower)), downPx },
    write(across, below, to) {
      const wanted = across * all;
      // What was last asked for is mostly beside what is asked for now.
      while (last > 0 && lengths[last] > wanted) last--;
      while (last < PIECES - 1 && lengths[last + 1] <= wanted) last++;
      const part = (wanted - lengths[last]) / (lengths[last + 1] - lengths[last] || 1);
      const [a, b] = [places[last], places[last + 1]];
      const z = a[2] + part * (b[2] - a[2]) + below * down[2];
      to[0] = cx + (f * (a[0] + part * (b[0] - a[0]) + below * down[0])) / z;
      to[1] = cy + (f * (a[1] + part * (b[1] - a[1]) + below * down[1])) / z;
    },
  };
}

/**
 * The place at the top in the room, the way down from it to what is seen at the foot being one long: za a + way = zb b, by
 * least squares.
 */
function placeOf(a: Vec, b: Vec, way: Vec): Vec {
  const [aa, ab, bb, aw, bw] = [dot(a, a), dot(a, b), dot(b, b), dot(a, way), dot(b, way)];
  const by = aa * bb - ab * ab;
  // Seen along the way itself nothing can be told.
  const za = Math.abs(by) < 1e-12 * aa * bb ? 1 / Math.sqrt(aa) : (ab * bw - bb * aw) / by;
  return [a[0] * za, a[1] * za, a[2] * za];
}

/** Where a function that begins on one side of zero gets to the other, from a place on; 1 where it does not. */
function meetingAfter(f: (t: number) => number, from: number, last: boolean): number {
  if (last) return 1;
  const begin = f(from);
  if (from === 0 && Math.abs(begin) < 1e-6 * Math.abs(f(1))) return 0;
  const end = f(1);
  if (begin * end > 0) return Math.abs(begin) < Math.abs(end) ? from : 1;
  let [low, high] = [from, 1];
  for (let round = 0; round < 50; round++) {
    const middle = (low + high) / 2;
    if (f(middle) * begin > 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** A curve through some places, straight through two: by Lagrange's polynomials over the lengths between them. */
export function curveThrough(places: readonly Point[]): (t: number) => [number, number] {
  const steps = [0];
  for (let k = 1; k < places.length; k++) steps.push(steps[k - 1] + away(places[k], places[k - 1]));
  const at = steps.map((s) => s / (steps[steps.length - 1] || 1));
  return (t) => {
    let [x, y] = [0, 0];
    for (let k = 0; k < places.length; k++) {
      let weight = 1;
      for (let j = 0; j < places.length; j++) if (j !== k) weight *= (t - at[j]) / (at[k] - at[j] || 1e-9);
      x += weight * places[k][0];
      y += weight * places[k][1];
    }
    return [x, y];
  };
}

function lengthOf(curve: (t: number) => Point): number {
  let sum = 0;
  for (let k = 1; k <= 64; k++) sum += away(curve(k / 64), curve((k - 1) / 64));
  return sum;
}

/** Places of a curve at a third and two thirds of the way, as those that are dragged begin. */
export const thirds = (from: Point, to: Point): [[number, number], [number, number]] =>
  [1 / 3, 2 / 3].map((t) => [from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])]) as [
    [number, number],
    [number, number],
  ];

const plus = (a: Vec, b: Vec): Vec => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const minus = (a: Vec): Vec => [-a[0], -a[1], -a[2]];
const size = (a: Vec): number => Math.sqrt(dot(a, a));
const unit = (a: Vec): Vec => {
  const by = size(a) || 1;
  return [a[0] / by, a[1] / by, a[2] / by];
};
const away = (a: Point, b: Point): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2);
