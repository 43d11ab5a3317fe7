import { type Point } from "./lens";
import { crossing, type Line, type Steepness } from "./lines";
import { valueAt, type Planes } from "./planes";
import { type Work } from "../maths/work";

// Thresholds: what they decide is measured by `npm run papers`.

/** Four sides that may be those of a paper, and where they meet: as they are seen, clockwise. */
export interface Four {
  readonly corners: readonly [Point, Point, Point, Point];
  readonly score: number;
}

/** Opposite sides differ by so many degrees at most; those that meet, by so many at least. */
const [MOST_OPPOSITE, LEAST_MEETING] = [50, 32];
/** Share of the picture that a paper takes at least, and by how much of it a corner may lie beside it. */
const [LEAST_AREA, BESIDE] = [0.05, 0.02];
/** Of a side this much must be an edge; and how many fours are looked at closely. */
const [LEAST_COVER, CLOSELY] = [0.35, 1500];
/** Pixels by which an edge may lie beside its line, as lenses bend. */
const NEAR_PX = 2;
/** Degrees by which an edge's slope may differ from its line's. */
const NEAR_DEGREES = 16;
const [LEAST_SLOPE, FULL_SLOPE] = [2, 6];

/** How much of a line is an edge up to each place along it. */
interface Along {
  readonly from: number;
  readonly sums: Float32Array;
}

function alongOf(line: Line, { width, height, much, degrees }: Steepness): Along {
  const reach = Math.ceil(Math.sqrt(width * width + height * height));
  const sums = new Float32Array(2 * reach + 2);
  for (let k = 0; k <= 2 * reach; k++) {
    const s = k - reach;
    let best = 0;
    for (let d = -NEAR_PX; d <= NEAR_PX; d++) {
      const x = Math.floor(line.cos * (line.away + d) - line.sin * s);
      const y = Math.floor(line.sin * (line.away + d) + line.cos * s);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      const i = y * width + x;
      if (much[i] < LEAST_SLOPE) continue;
      const off = Math.abs(degrees[i] - line.degrees);
      if (Math.min(off, 180 - off) <= NEAR_DEGREES) best = Math.max(best, Math.min(1, much[i] / FULL_SLOPE));
    }
    sums[k + 1] = sums[k] + best;
  }
  return { from: -reach, sums };
}

/** The share of a side between two places that is an edge. */
function cover({ cos, sin }: Line, { from, sums }: Along, a: Point, b: Point): number {
  const [s, t] = [a, b].map(([x, y]) => Math.round(y * cos - x * sin) - from);
  const [low, high] = [Math.max(0, Math.min(s, t)), Math.min(sums.length - 1, Math.max(s, t))];
  return (sums[high] - sums[low]) / Math.max(1, Math.abs(t - s));
}

/** The fours of lines that may be a paper's sides, best first. */
export function* foursOf(lines: readonly Line[], steepness: Steepness, planes: Planes): Work<Four[]> {
  const along = lines.map((line) => alongOf(line, steepness));
  yield 0.1;
  const meet = lines.map((a) => lines.map((b) => meeting(a, b, steepness)));
  const apart = (a: Line, b: Line): number => {
    const off = Math.abs(a.degrees - b.degrees);
    return Math.min(off, 180 - off);
  };
  const pairs: [number, number][] = [];
  for (let i = 0; i < lines.length; i++)
    for (let j = i + 1; j < lines.length; j++)
      if (apart(lines[i], lines[j]) <= MOST_OPPOSITE) pairs.push([i, j]);
  const found: { corners: Four["corners"]; rough: number }[] = [];
  for (let p = 0; p < pairs.length; p++) {
    yield 0.1 + (0.6 * p) / pairs.length;
    const [a, c] = pairs[p];
    for (let q = p + 1; q < pairs.length; q++) {
      const [b, d] = pairs[q];
      if (b === a || b === c || d === a || d === c) continue;
      const corners = [meet[a][b], meet[b][c], meet[c][d], meet[d][a]];
      if (corners.some((corner) => !corner)) continue;
      const four = corners as [Point, Point, Point, Point];
      if (!isSound(four, steepness)) continue;
      const sides = [
        cover(lines[b], along[b], four[0], four[1]),
        cover(lines[c], along[c], four[1], four[2]),
      ];
      sides.push(cover(lines[d], along[d], four[2], four[3]), cover(lines[a], along[a], four[3], four[0]));
      const least = Math.min(...sides);
      if (least < LEAST_COVER) continue;
      const mean = sides.reduce((sum, v) => sum + v, 0) / 4;
      found.push({ corners: four, rough: 0.6 * least + 0.4 * mean });
    }
  }
  found.sort((a, b) => b.rough - a.rough);
  const fours = found
    .slice(0, CLOSELY)
    .map(({ corners, rough }) => ({ corners, score: closely(corners, rough, planes) }));
  return fours.sort((a, b) => b.score - a.score);
}

function meeting(a: Line, b: Line, { width, height }: Steepness): Point | null {
  const off = Math.abs(a.degrees - b.degrees);
  if (Math.min(off, 180 - off) < LEAST_MEETING) return null;
  const at = crossing(a, b);
  if (!at) return null;
  const room = BESIDE * Math.max(width, height);
  return at[0] > -room && at[1] > -room && at[0] < width + room && at[1] < height + room ? at : null;
}

/** Goes round once, and is large enough. */
function isSound(four: Four["corners"], { width, height }: Steepness): boolean {
  let [area, turns] = [0, 0];
  for (let k = 0; k < 4; k++) {
    const [a, b, c] = [four[k], four[(k + 1) % 4], four[(k + 2) % 4]];
    area += a[0] * b[1] - b[0] * a[1];
    turns += Math.sign((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]));
  }
  return Math.abs(turns) === 4 && Math.abs(area) / 2 >= LEAST_AREA * width * height;
}

/** Places looked at along a side, and how far within and beyond it, in pixels. */
const [PLACES, WITHIN] = [28, 3.5];

/**
 * A paper is one ground along all of its edges, and another than what lies beyond: so print within it, and what crosses a
 * table, count for less than its own edge.
 */
function closely(corners: Four["corners"], rough: number, planes: Planes): number {
  const turned = orientation(corners);
  let [steps, unlike, contrast, count] = [0, 0, 0, 0];
  const grounds: number[][] = [];
  for (let k = 0; k < 4; k++) {
    const [a, b] = [corners[k], corners[(k + 1) % 4]];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const length = Math.sqrt(dx * dx + dy * dy);
    const [nx, ny] = [(-dy / length) * turned, (dx / length) * turned];
    let last: number[] | null = null;
    const step = [0, 0, 0];
    for (let n = 0; n < PLACES; n++) {
      const t = 0.06 + (0.88 * n) / (PLACES - 1);
      const [x, y] = [a[0] + t * dx, a[1] + t * dy];
      const at = (by: number) => planes.data.map((p) => valueAt(planes, p, x + by * nx, y + by * ny));
      const [within, beyond] = [at(WITHIN), at(-WITHIN)];
      if (last) steps += distance(within, last);
      last = within;
      grounds.push(within);
      for (let c = 0; c < 3; c++) step[c] += within[c] - beyond[c];
      count++;
    }
    // A line that is drawn on one ground has the same on both of its sides.
    const beside = distance(step, [0, 0, 0]) / PLACES;
    contrast += beside / (beside + 8);
  }
  const middle = [0, 1, 2].map((k) => median(grounds.map((g) => g[k])));
  // Light falls off over a paper; its hue does not change.
  for (const ground of grounds)
    unlike +=
      Math.abs(ground[1] - middle[1]) +
      Math.abs(ground[2] - middle[2]) +
      0.25 * Math.abs(ground[0] - middle[0]);
  const [step, edge, hue] = [steps / count, contrast / 4, unlike / count];
  const area = Math.sqrt(areaOf(corners) / (planes.width * planes.height));
  return rough + 0.6 * edge - 0.35 * (step / (step + 8)) - 0.35 * (hue / (hue + 12)) + 0.25 * area;
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.sqrt(a.reduce((sum, v, k) => sum + (v - b[k]) ** 2, 0));

export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1];
};

const signedArea = (corners: readonly Point[]): number =>
  corners.reduce((sum, [x, y], k) => {
    const [u, v] = corners[(k + 1) % corners.length];
    return sum + (x * v - u * y) / 2;
  }, 0);

export const areaOf = (corners: readonly Point[]): number => Math.abs(signedArea(corners));
/** 1 where it goes round clockwise as it is seen, -1 otherwise. */
export const orientation = (corners: readonly Point[]): 1 | -1 => (signedArea(corners) > 0 ? 1 : -1);
