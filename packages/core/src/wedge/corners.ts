import { homographyOf, seenAt, type Homography } from "../maths/homography";
import { bareLight } from "./bareLight";
import { CORNER_MM, CORNERS, PATCHES, STEPS_BARE } from "./layout";
import { meanIn, smaller, type Light } from "./light";

/*
 * Thresholds: what they let through and what they lose is measured by `npm run wedges`.
 */

/** Corner marks are looked for on a picture about so wide or high at most, in pixels. */
const LOOKED_AT = 1000;
/** A mark differs from what lies round it by one of these factors: hardly on some materials, much on others. */
const FACTORS = [0.93, 0.86, 0.76, 0.62, 0.45] as const;
/** What lies round a mark: within these shares of the picture's longer side, so that a table near by is not taken for it. */
const REACHES = [1 / 40, 1 / 24, 1 / 9] as const;
/** Shares of the picture that one mark may cover. */
const [LEAST_AREA, MOST_AREA] = [0.00025, 0.01];
/** Of marks seen from the side the smallest is so much smaller than the largest. */
const LIKE = 0.4;
/** Area of a mark as a share of that between the four: 0.29 to 0.37 % on the wedge, more or less as marks spread. */
const [LEAST_SHARE, MOST_SHARE] = [0.0018, 0.0062];
/** Spots of one size that are tried in fours; more of one size are texture. */
const MOST_LIKE = 28;
/** More spots than these at one contrast are texture: the photographs of `npm run wedges` have 21 where the wedge is found. */
const MOST_SPOTS = 100;
/** Fours tried at one contrast: on those photographs the wedge is among the first six. */
const MOST_FOURS = 300;

/** Something that stands out and may be a corner mark. */
interface Spot {
  readonly x: number;
  readonly y: number;
  readonly area: number;
}

/** Where a wedge lies on a photograph. */
export interface Found {
  /** From millimetres of the wedge to pixels of the photograph. */
  readonly map: Homography;
  readonly corners: readonly (readonly [number, number])[];
  /** How well the tones between the marks follow what was made, -1 to 1. */
  readonly follows: number;
}

/**
 * Finds the four corner marks, however the wedge is turned: spots that stand out from their surroundings, four of about
 * one size, as far apart for their size as on the wedge, and, of all such fours and ways round, the one between which the
 * tones follow the steps best. Nothing of light, table or contrast is taken for known: spots are looked for at several.
 *
 * @param burnsPale  marks are paler than the material
 * @returns the best of them, and null where there is none; how many spots there were to choose from
 */
export function findCorners(photo: Light, burnsPale: boolean): { found: Found | null; spots: number } {
  const times = Math.max(1, Math.round(Math.max(photo.width, photo.height) / LOOKED_AT));
  const light = smaller(photo, times);
  let found: Found | null = null;
  let spots = 0;
  for (const reach of REACHES) {
    const means = squareMeans(light, Math.round(reach * Math.max(light.width, light.height)));
    for (const factor of FACTORS) {
      const own = spotsOf(light, means, factor, burnsPale);
      spots = Math.max(spots, own.length);
      if (own.length > MOST_SPOTS) continue;
      for (const four of foursOf(own, MOST_FOURS)) {
        const best = oriented(photo, four, times, burnsPale);
        if (best && (!found || best.follows > found.follows)) found = best;
      }
    }
  }
  return { found, spots };
}

/** Connected pixels that stand out by a factor from the mean about each, none of them at the picture's edge. */
function spotsOf({ width, height, data }: Light, means: Float32Array, factor: number, pale: boolean): Spot[] {
  const stands = new Uint8Array(data.length);
  for (let i = 0; i < data.length; i++)
    if (pale ? data[i] * factor > means[i] : data[i] < factor * means[i]) stands[i] = 1;
  const [least, most] = [LEAST_AREA * data.length, MOST_AREA * data.length];
  const spots: Spot[] = [];
  for (let start = 0; start < stands.length; start++) {
    if (stands[start] !== 1) continue;
    const list = [start];
    stands[start] = 2;
    let [l, t, r, b, sx, sy] = [width, height, 0, 0, 0, 0];
    let [xx, yy, xy] = [0, 0, 0];
    for (let k = 0; k < list.length; k++) {
      const i = list[k];
      const [x, y] = [i % width, Math.floor(i / width)];
      [l, t, r, b] = [Math.min(l, x), Math.min(t, y), Math.max(r, x), Math.max(b, y)];
      [sx, sy, xx, yy, xy] = [sx + x, sy + y, xx + x * x, yy + y * y, xy + x * y];
      for (const n of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width])
        if (n >= 0 && n < stands.length && stands[n] === 1) {
          stands[n] = 2;
          list.push(n);
        }
    }
    const area = list.length;
    if (area < least || area > most || l === 0 || t === 0 || r === width - 1 || b === height - 1) continue;
    const [cx, cy] = [sx / area, sy / area];
    // A disc and a square are as wide as they are high, whichever way they are turned, and fill what they reach over.
    const [vx, vy, vxy] = [xx / area - cx * cx, yy / area - cy * cy, xy / area - cx * cy];
    const spread = Math.sqrt((vx - vy) * (vx - vy) + 4 * vxy * vxy);
    if ((vx + vy + spread) / Math.max(1e-9, vx + vy - spread) > 3.2) continue;
    if (area < 0.72 * 4 * Math.PI * Math.sqrt(Math.max(0, vx * vy - vxy * vxy))) continue;
    spots.push({ x: cx + 0.5, y: cy + 0.5, area });
  }
  return spots;
}

/** Mean of a square about each pixel, cut off at the picture's edges. */
function squareMeans({ width, height, data }: Light, reach: number): Float32Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0, row = 0; x < width; x++) {
      row += data[y * width + x];
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1] + row;
    }
  const means = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const [t, b] = [Math.max(0, y - reach) * (width + 1), Math.min(height, y + reach + 1) * (width + 1)];
    const rows = Math.min(height, y + reach + 1) - Math.max(0, y - reach);
    for (let x = 0; x < width; x++) {
      const [l, r] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      means[y * width + x] = (sums[b + r] - sums[b + l] - sums[t + r] + sums[t + l]) / ((r - l) * rows);
    }
  }
  return means;
}

/** Fours of spots of about one size that lie as corner marks may, in order round their middle; the largest first. */
function* foursOf(spots: readonly Spot[], most: number): Iterable<readonly Spot[]> {
  let given = 0;
  const bySize = spots.toSorted((a, b) => b.area - a.area);
  for (let a = 0; a < bySize.length; a++) {
    let like = 0;
    while (a + 1 + like < bySize.length && bySize[a + 1 + like].area > LIKE * bySize[a].area) like++;
    const last = a + Math.min(like, MOST_LIKE);
    for (let b = a + 1; b <= last; b++)
      for (let c = b + 1; c <= last; c++)
        for (let d = c + 1; d <= last; d++) {
          const four = inOrder([bySize[a], bySize[b], bySize[c], bySize[d]]);
          if (!four || !fits(four)) continue;
          yield four;
          if (++given === most) return;
        }
  }
}

const cross = (a: Spot, b: Spot, c: Spot): number => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
const between = (a: Spot, b: Spot): number =>
  Math.sqrt((a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y));

/** Four spots the way round that turns right, as the wedge's corners are listed; null where one lies between the others. */
function inOrder([a, b, c, d]: readonly Spot[]): readonly Spot[] | null {
  for (const four of [
    [a, b, c, d],
    [a, b, d, c],
    [a, c, b, d],
    [a, c, d, b],
    [a, d, b, c],
    [a, d, c, b],
  ])
    if (four.every((_, k) => cross(four[k], four[(k + 1) % 4], four[(k + 2) % 4]) > 0)) return four;
  return null;
}

function fits(four: readonly Spot[]): boolean {
  const sides = four.map((spot, k) => between(spot, four[(k + 1) % 4]));
  for (const k of [0, 1]) if (Math.max(sides[k] / sides[k + 2], sides[k + 2] / sides[k]) > 1.6) return false;
  const [one, other] = [sides[0] + sides[2], sides[1] + sides[3]];
  const aspect = Math.max(one / other, other / one);
  if (aspect < 1.05 || aspect > 2) return false;
  const area = (cross(four[0], four[1], four[2]) + cross(four[0], four[2], four[3])) / 2;
  const share = four.reduce((sum, spot) => sum + spot.area, 0) / 4 / area;
  return share > LEAST_SHARE && share < MOST_SHARE;
}

/** Area of a corner mark, in mm²: the first is a square, the others are discs. */
const markArea = (k: number): number => CORNER_MM * CORNER_MM * (k === 0 ? 1 : Math.PI / 4);
/** Samples along either side of a step while four spots are only tried. */
const FEW = 8;
/** How far a mark's size may be off what its place on the map says, as a factor to the mean of the four. */
const MOST_OFF = 1.45;

/** The way round under which sizes are as they should be and the tones follow the steps best. */
function oriented(photo: Light, four: readonly Spot[], times: number, burnsPale: boolean): Found | null {
  let best: Found | null = null;
  for (let turn = 0; turn < 4; turn++) {
    const own = CORNERS.map((_, k) => four[(k + turn) % 4]);
    const corners = own.map(({ x, y }) => [x * times, y * times] as const);
    const map = homographyOf(CORNERS, corners);
    if (!map) continue;
    const sizes = own.map(({ area }, k) => (area * times * times) / (markArea(k) * scaleAt(map, CORNERS[k])));
    const mean = sizes.reduce((a, b) => a + b, 0) / 4;
    if (sizes.some((size) => size > MOST_OFF * mean || mean > MOST_OFF * size)) continue;
    const meanOf = (x: number, y: number, width: number, height: number) =>
      meanIn(photo, map, x, y, width, height, FEW);
    // Light that falls off counts for more than tone on a faint wedge: it is evened first.
    const bare = bareLight(STEPS_BARE.map(([x, y]) => ({ x, y, light: meanOf(x - 0.5, y - 0.5, 1, 1) })));
    const seen = PATCHES.map(({ x, y, width, height }) => {
      const light = meanOf(x + width / 4, y + height / 4, width / 2, height / 2);
      return light / bare(x + width / 2, y + height / 2);
    });
    const made = PATCHES.map((p) => p.percent / 100);
    const follows = (burnsPale ? 1 : -1) * correlation(made, seen);
    if (!best || follows > best.follows) best = { map, corners, follows };
  }
  return best;
}

/** Pixels of the photograph to a square millimetre at a place of the wedge. */
function scaleAt(map: Homography, [x, y]: readonly [number, number]): number {
  const [a, b, c] = [seenAt(map, x, y), seenAt(map, x + 0.5, y), seenAt(map, x, y + 0.5)];
  return 4 * Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  a.forEach((x, k) => {
    ab += (x - ma) * (b[k] - mb);
    aa += (x - ma) * (x - ma);
    bb += (b[k] - mb) * (b[k] - mb);
  });
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}
