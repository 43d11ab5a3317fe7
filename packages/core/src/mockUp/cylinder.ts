import { degreesOf, logOf, sinPi } from "../maths/steady";
import { cross, dot, type Vec } from "../paper/proportion";
import { leastOff } from "./equations";
import { type Point, type Surface } from "./surface";

/** What is round, as two level edges of it tell: each its left end, a place near its middle, and its right end, in pixels. */
export interface TwoCurves {
  readonly upper: readonly [Point, Point, Point];
  readonly lower: readonly [Point, Point, Point];
  readonly diameterMm: number;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A cylinder before a camera, whose eye is at the origin and looks along z; mm, x to the right and y down. */
interface Cylinder {
  /** Middle of the upper edge. */
  readonly top: Vec;
  /** Down along its middle line, of length 1. */
  readonly down: Vec;
  readonly radius: number;
  readonly height: number;
  /** Of the camera, in pixels. */
  readonly focal: number;
}

const plus = (a: Vec, b: Vec, by = 1): Vec => [a[0] + by * b[0], a[1] + by * b[1], a[2] + by * b[2]];
const times = (a: Vec, by: number): Vec => [a[0] * by, a[1] * by, a[2] * by];
const unit = (a: Vec): Vec => times(a, 1 / Math.sqrt(dot(a, a)));

/** What a camera's focal length usually is, in longer sides of its picture, and how much that counts, in pixels. */
const [USUAL_FOCAL, COUNTS] = [1.05, 0.6];

/** The direction from the middle line towards the eye, and that to the right of it, both level. */
function facing({ top, down }: Cylinder): {
  readonly ahead: Vec;
  readonly right: Vec;
  readonly away: number;
} {
  const across = plus(top, down, -dot(top, down));
  const away = Math.sqrt(dot(across, across));
  const ahead = times(across, -1 / away);
  return { ahead, right: cross(ahead, down), away };
}

/**
 * The surface of something round that a camera sees. Where the level edges end on the left and right, the line of sight
 * touches the wall; between those ends lie the places near the middle. From that follow where it stands, how it is tilted,
 * how tall it is, and, as far as it can be told, how the camera is made.
 *
 * @returns  the surface, its origin at the middle of the upper edge as it faces us, with its height and how far it is seen to
 *           either side, in mm; null where the curves do not make sense
 * @see Hartley & Zisserman, "Multiple view geometry in computer vision", 2004, 6.1 for the camera, 8.3 for what is seen of a
 *      round body's outline; Levenberg and Marquardt as in `leastOff`
 */
export function cylinderSurface(
  { upper, lower, diameterMm }: TwoCurves,
  picture: Size,
): { readonly surface: Surface; readonly heightMm: number; readonly halfMm: number } | null {
  const radius = diameterMm / 2;
  const [cx, cy] = [picture.width / 2, picture.height / 2];
  const wide = apart(upper[0], upper[2]);
  if (!(wide > 2) || !(apart(lower[0], lower[2]) > 2)) return null;
  const usual = USUAL_FOCAL * Math.max(picture.width, picture.height);
  const [mu, ml] = [between(upper[0], upper[2]), between(lower[0], lower[2])];
  const [dx, dy] = [ml[0] - mu[0], ml[1] - mu[1]];
  const tall = Math.sqrt(dx * dx + dy * dy);
  if (!(tall > 2)) return null;
  const sag = (c: readonly Point[], m: Point): number =>
    ((c[1][0] - m[0]) * dx + (c[1][1] - m[1]) * dy) / tall;
  const tilt = Math.max(-0.8, Math.min(0.8, (sag(upper, mu) + sag(lower, ml)) / wide));
  const away = (usual * diameterMm) / wide;
  const level = Math.sqrt(1 - tilt * tilt);
  const per = away / usual;
  const start = [
    ...[(mu[0] - cx) * per, (mu[1] - cy) * per, away],
    ...[(dx / tall) * level, tilt, (tall * per) / level, 0],
  ];
  const sideways = dy >= 0 ? 1 : -1;
  const cylinder = (p: Float64Array): Cylinder => {
    // Its middle line runs mostly down the picture: its part in y is what the other two leave.
    const flat = Math.min(0.98, p[3] * p[3] + p[4] * p[4]);
    const down = unit([p[3], sideways * Math.sqrt(1 - flat), p[4]]);
    return { top: [p[0], p[1], p[2]], down, radius, height: p[5], focal: usual * (1 + p[6]) };
  };
  const off = (p: Float64Array): Float64Array => {
    const own = cylinder(p);
    if (!(own.focal > 0.1 * usual) || !(p[2] > 1.05 * radius)) return new Float64Array(11).fill(Infinity);
    const out: number[] = [];
    for (const [curve, down] of [
      [upper, 0],
      [lower, own.height],
    ] as const) {
      const edge = { ...own, top: plus(own.top, own.down, down) };
      const { ahead, right, away: far } = facing(edge);
      if (!(far > radius)) return new Float64Array(11).fill(Infinity);
      const cosine = radius / far;
      const sine = Math.sqrt(1 - cosine * cosine);
      const at = (c: number, s: number): Point =>
        seenBy(own.focal, cx, cy, plus(plus(edge.top, ahead, radius * c), right, radius * s));
      const [left, end] = [at(cosine, -sine), at(cosine, sine)];
      out.push(left[0] - curve[0][0], left[1] - curve[0][1], end[0] - curve[2][0], end[1] - curve[2][1]);
      out.push(offEdge(at, cosine, curve[1], left, end));
    }
    out.push(COUNTS * logOf(own.focal / usual));
    return Float64Array.from(out);
  };
  const scales = [radius, radius, away, 0.2, 0.2, start[5], 0.3];
  const found = cylinder(leastOff(start, scales, off));
  if (![...found.top, found.height, found.focal].every(Number.isFinite) || !(found.height > 0)) return null;
  return { surface: wallOf(found, cx, cy), heightMm: found.height, halfMm: halfSeen(found) };
}

const apart = (a: Point, b: Point): number =>
  Math.sqrt((a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]));
const between = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
const seenBy = (focal: number, cx: number, cy: number, p: Vec): Point => [
  cx + (focal * p[0]) / p[2],
  cy + (focal * p[1]) / p[2],
];

/** How far a place lies off the edge between its ends, across the line that joins them. */
function offEdge(
  at: (c: number, s: number) => Point,
  most: number,
  place: Point,
  left: Point,
  right: Point,
): number {
  const [dx, dy] = [right[0] - left[0], right[1] - left[1]];
  const long = Math.sqrt(dx * dx + dy * dy);
  const along = (p: Point): number => (p[0] - left[0]) * dx + (p[1] - left[1]) * dy;
  const wanted = along(place);
  // By halving over the half angle's tangent, on which the place along the line only grows.
  const end = Math.sqrt((1 - most) / (1 + most));
  let [low, high] = [-end, end];
  const point = (t: number): Point => at((1 - t * t) / (1 + t * t), (2 * t) / (1 + t * t));
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2;
    if (along(point(middle)) < wanted) low = middle;
    else high = middle;
  }
  const p = point((low + high) / 2);
  return ((p[1] - place[1]) * dx - (p[0] - place[0]) * dy) / long;
}

/** How far round it is seen to either side, in mm. */
function halfSeen(of: Cylinder): number {
  const cosine = of.radius / facing(of).away;
  return (degreesOf(Math.sqrt(1 - cosine * cosine), cosine) / 180) * Math.PI * of.radius;
}

function wallOf(of: Cylinder, cx: number, cy: number): Surface {
  const { top, down, radius, focal } = of;
  const { ahead, right } = facing(of);
  return {
    seen: (x, y) => {
      const half = x / radius / Math.PI;
      if (half < -1 || half > 1) return null;
      const [c, s] = turnOf(x / radius);
      const n = plus(times(ahead, c), right, s);
      const p = plus(plus(top, down, y), n, radius);
      return dot(n, p) < 0 ? seenBy(focal, cx, cy, p) : null;
    },
    at: (x, y, into) => {
      const ray: Vec = [x - cx, y - cy, focal];
      const [rd, td] = [dot(ray, down), dot(top, down)];
      const level = plus(ray, down, -rd);
      const middle = plus(top, down, -td);
      const [a, b, c] = [dot(level, level), dot(level, middle), dot(middle, middle) - radius * radius];
      const root = b * b - a * c;
      if (root <= 0) return false;
      const t = (b - Math.sqrt(root)) / a;
      const n = plus(times(level, t), middle, -1);
      const degrees = degreesOf(dot(n, right), dot(n, ahead));
      into[0] = ((degrees > 180 ? degrees - 360 : degrees) / 180) * Math.PI * radius;
      into[1] = t * rd - td;
      return true;
    },
  };
}

/** Cosine and sine of a turn. */
function turnOf(radians: number): [number, number] {
  const half = radians / Math.PI;
  return [sinPi(half + 0.5), sinPi(half)];
}
