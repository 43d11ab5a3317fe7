import { type MarkEntry } from "./markEntry";
import { type Gray } from "../raster/types";

/** How a sheet lies: a place of it, in mm, comes to lie at a x + b y + c, d x + e y + f on the bed, in mm. */
export type Pose = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const posedAt = ([a, b, c, d, e, f]: Pose, x: number, y: number): [number, number] => [
  a * x + b * y + c,
  d * x + e * y + f,
];

/** A picture that the camera took: the bed about a place, and how many mm a pixel is. */
export interface Sight {
  readonly picture: Gray;
  /** Of the picture's top left, on the bed. */
  readonly xMm: number;
  readonly yMm: number;
  readonly mmPerPixel: number;
}

/** A mark as the camera found it. */
export interface FoundMark {
  readonly xMm: number;
  readonly yMm: number;
  /** How much what was seen is like the mark, 0..1. */
  readonly likeness: number;
}

/** Under this, what is seen is no mark. */
const LEAST_LIKENESS = 0.5;

/**
 * The middle of a mark in a picture of the camera: the light is evened by the median, what is dark is taken apart into
 * spots, and the spot of about the mark's area that is most like it gives its middle, by the darkness of its pixels.
 *
 * @returns null where nothing is like a mark
 * @see Otsu, "A threshold selection method from gray-level histograms", IEEE Trans. SMC 9, 1979
 */
export function findMark(
  { picture, xMm, yMm, mmPerPixel }: Sight,
  { shape, sizeMm }: MarkEntry,
): FoundMark | null {
  const { width, height, data } = picture;
  const threshold = otsu(data);
  const wanted = areaOf(shape, sizeMm) / (mmPerPixel * mmPerPixel);
  const seen = new Uint8Array(width * height);
  let best: FoundMark | null = null;
  for (let start = 0; start < data.length; start++) {
    if (seen[start] || data[start] >= threshold) continue;
    const spot = spotFrom(start, picture, threshold, seen);
    const found = judged(spot, picture, threshold, shape, sizeMm / mmPerPixel, wanted);
    if (found && (!best || found.likeness > best.likeness))
      best = {
        xMm: xMm + (found.x + 0.5) * mmPerPixel,
        yMm: yMm + (found.y + 0.5) * mmPerPixel,
        likeness: found.likeness,
      };
  }
  return best && best.likeness >= LEAST_LIKENESS ? best : null;
}

const areaOf = (shape: MarkEntry["shape"], s: number): number =>
  shape === "disc" ? (Math.PI * s * s) / 4 : shape === "square" ? s * s : 0.36 * s * s;

/** The grey that parts dark from light best. */
function otsu(data: Uint8Array): number {
  const counts = new Float64Array(256);
  for (const g of data) counts[g]++;
  let [sum, all] = [0, 0];
  counts.forEach((n, g) => ((sum += n * g), (all += n)));
  let [below, belowSum, most, at] = [0, 0, -1, 128];
  for (let g = 0; g < 256; g++) {
    below += counts[g];
    if (below === 0 || below === all) continue;
    belowSum += counts[g] * g;
    const apart = belowSum / below - (sum - belowSum) / (all - below);
    const between = below * (all - below) * apart * apart;
    if (between > most) [most, at] = [between, g];
  }
  return at + 1;
}

function spotFrom(
  start: number,
  { width, height, data }: Gray,
  threshold: number,
  seen: Uint8Array,
): number[] {
  const spot = [start];
  seen[start] = 1;
  for (let k = 0; k < spot.length; k++) {
    const i = spot[k];
    const [x, y] = [i % width, Math.floor(i / width)];
    for (const n of [
      x > 0 ? i - 1 : -1,
      x < width - 1 ? i + 1 : -1,
      y > 0 ? i - width : -1,
      y < height - 1 ? i + width : -1,
    ])
      if (n >= 0 && !seen[n] && data[n] < threshold) {
        seen[n] = 1;
        spot.push(n);
      }
  }
  return spot;
}

/**
 * How like a mark a spot is: the share of the mark, laid at the spot's middle, that is dark, less the share of a ring round
 * it that is. The middle is that of the pixels' darkness, again and again within the mark's own reach, so that a smudge
 * beside it does not pull it away.
 */
function judged(
  spot: readonly number[],
  { width, height, data }: Gray,
  threshold: number,
  shape: MarkEntry["shape"],
  side: number,
  wanted: number,
): { x: number; y: number; likeness: number } | null {
  if (spot.length < 0.4 * wanted || spot.length > 3 * wanted) return null;
  let [x, y] = [0, 0];
  for (const i of spot) {
    x += (i % width) / spot.length;
    y += Math.floor(i / width) / spot.length;
  }
  const light = Math.min(255, threshold + 40);
  for (let round = 0; round < 12; round++) {
    let [sx, sy, weight] = [0, 0, 0];
    const reach = side / 2 + 1.5;
    for (let v = Math.max(0, Math.floor(y - reach)); v <= Math.min(height - 1, Math.ceil(y + reach)); v++)
      for (let u = Math.max(0, Math.floor(x - reach)); u <= Math.min(width - 1, Math.ceil(x + reach)); u++) {
        if (distance(shape, u - x, v - y, side) > 1.5) continue;
        const dark = Math.max(0, light - data[v * width + u]);
        sx += dark * u;
        sy += dark * v;
        weight += dark;
      }
    if (weight === 0) return null;
    const [nx, ny] = [sx / weight, sy / weight];
    const moved = Math.abs(nx - x) + Math.abs(ny - y);
    [x, y] = [nx, ny];
    if (moved < 0.002) break;
  }
  let [inside, dark, round, stray] = [0, 0, 0, 0];
  const reach = side / 2 + 4;
  for (let v = Math.floor(y - reach); v <= y + reach; v++)
    for (let u = Math.floor(x - reach); u <= x + reach; u++) {
      const off = distance(shape, u - x, v - y, side);
      const black = u >= 0 && v >= 0 && u < width && v < height && data[v * width + u] < threshold;
      if (off < -1) {
        inside++;
        dark += +black;
      } else if (off > 1 && off < 3) {
        round++;
        stray += +black;
      }
    }
  return { x, y, likeness: inside > 0 ? dark / inside - (round > 0 ? stray / round : 0) : 0 };
}

/** How far outside of a mark a pixel lies, about; below 0 inside. */
function distance(shape: MarkEntry["shape"], dx: number, dy: number, side: number): number {
  const [ax, ay] = [Math.abs(dx), Math.abs(dy)];
  if (shape === "disc") return Math.sqrt(dx * dx + dy * dy) - side / 2;
  const square = Math.max(ax, ay) - side / 2;
  return shape === "square" ? square : Math.max(square, Math.min(ax, ay) - side / 10);
}

/** How well a pose fits its marks. */
export interface FittedPose {
  readonly pose: Pose;
  /** Numbers of the marks that it was fitted to. */
  readonly used: readonly number[];
  /** How far those lie from where it says, at most, in mm. */
  readonly offMm: number;
}

/** How far marks may lie off the map that they were fitted to, in mm: as near as a camera sees at first, then less so. */
const TRUE_MM = [0.02, 0.04, 0.08];
/** Paper and machine stretch no more than this, nor do they lean by more. */
const STRETCH = 0.03;

/**
 * How a sheet lies, from where its marks were found: the affine map of least squares. Of more than four marks, those that
 * do not go with the others are left out; of four, when they do not go together, the one that is least like a mark. Three
 * fit any map, so they are believed only if it hardly stretches.
 *
 * @param wanted  the marks' places on the sheet, in mm
 * @param found   where each was found on the bed; null where it was not
 * @returns       null where fewer than three go together
 */
export function fitPose(wanted: Wanted, found: Found): FittedPose | null {
  const seen = found.flatMap((mark, k) => (mark ? [k] : []));
  for (const most of TRUE_MM)
    for (const used of subsets(seen)) {
      // Four share the error of one of them among them: it shows as a quarter of itself.
      if (used.length < 4 || (used.length === 4 && most > TRUE_MM[0])) break;
      const fitted = affine(wanted, found, used);
      if (fitted && fitted.offMm <= most && isPlain(fitted.pose)) return fitted;
    }
  const likeliest = seen.toSorted((a, b) => found[b]!.likeness - found[a]!.likeness).slice(0, 3);
  const three =
    likeliest.length === 3
      ? affine(
          wanted,
          found,
          likeliest.toSorted((a, b) => a - b),
        )
      : null;
  return three && isPlain(three.pose) ? three : null;
}

/** Whether a map turns and shifts, and stretches hardly at all. */
function isPlain([a, b, , d, e]: Pose): boolean {
  const [across, down] = [Math.sqrt(a * a + d * d), Math.sqrt(b * b + e * e)];
  const lean = (a * b + d * e) / (across * down);
  return Math.abs(across - 1) < STRETCH && Math.abs(down - 1) < STRETCH && Math.abs(lean) < STRETCH;
}

/** Sets of numbers, the largest first: all, all but one, all but two ... */
function* subsets(of: readonly number[]): Generator<readonly number[]> {
  const size = of.length;
  const all = Array.from({ length: 2 ** size }, (_, mask) => of.filter((__, k) => (mask >> k) & 1));
  yield* all.sort((a, b) => b.length - a.length);
}

type Wanted = readonly (readonly [number, number])[];
type Found = readonly (FoundMark | null)[];

function offBy(pose: Pose, wanted: Wanted, found: Found, used: readonly number[]): number {
  return used.reduce((most, k) => {
    const [x, y] = posedAt(pose, ...(wanted[k] as [number, number]));
    const [dx, dy] = [x - found[k]!.xMm, y - found[k]!.yMm];
    return Math.max(most, Math.sqrt(dx * dx + dy * dy));
  }, 0);
}

function affine(wanted: Wanted, found: Found, used: readonly number[]): FittedPose | null {
  const n = used.length;
  const mean = (of: (k: number) => number) => used.reduce((sum, k) => sum + of(k), 0) / n;
  const [mx, my] = [mean((k) => wanted[k][0]), mean((k) => wanted[k][1])];
  const [mu, mv] = [mean((k) => found[k]!.xMm), mean((k) => found[k]!.yMm)];
  let [xx, xy, yy, xu, yu, xv, yv] = [0, 0, 0, 0, 0, 0, 0];
  for (const k of used) {
    const [x, y] = [wanted[k][0] - mx, wanted[k][1] - my];
    const [u, v] = [found[k]!.xMm - mu, found[k]!.yMm - mv];
    [xx, xy, yy] = [xx + x * x, xy + x * y, yy + y * y];
    [xu, yu, xv, yv] = [xu + x * u, yu + y * u, xv + x * v, yv + y * v];
  }
  const det = xx * yy - xy * xy;
  if (Math.abs(det) < 1e-6 * (xx + yy) * (xx + yy)) return null; // in one line
  const [a, b] = [(xu * yy - yu * xy) / det, (yu * xx - xu * xy) / det];
  const [d, e] = [(xv * yy - yv * xy) / det, (yv * xx - xv * xy) / det];
  const pose: Pose = [a, b, mu - a * mx - b * my, d, e, mv - d * mx - e * my];
  return { pose, used, offMm: offBy(pose, wanted, found, used) };
}
