import { type Work } from "../maths/work";
import { type Gray } from "../raster/types";

/** Closed outlines, one behind the other. */
export interface Outlines {
  /** x and y of every vertex in pixels, a pixel's middle at a half. */
  readonly points: Float64Array;
  /** Number of the first vertex of each outline, and, last, of all vertices. */
  readonly starts: Int32Array;
}

/** Vertices that are followed between two slices. */
const FOLLOWED_AT_ONCE = 1 << 13;
const ROWS_AT_ONCE = 1 << 16;

/**
 * Outlines of everything darker than a threshold, where the grey passes it between the middles of two pixels, by straight
 * interpolation. What is dark lies to the right of the way an outline runs, so outer ones run clockwise on the screen and
 * holes the other way. Beyond the picture's edge nothing is dark. Where two dark pixels touch at a corner alone, the mean
 * of the four around it says whether they are joined.
 *
 * @param threshold  1..255; a pixel is dark when its grey is below it
 * @see Lorensen & Cline, "Marching cubes", SIGGRAPH 1987, for the cells; followed from cell to cell in the plane
 */
export function* outlinesOf({ width, height, data }: Gray, threshold: number): Work<Outlines> {
  const stride = width + 2;
  const padded = new Uint8Array(stride * (height + 2)).fill(255);
  for (let y = 0; y < height; y++)
    padded.set(data.subarray(y * width, (y + 1) * width), (y + 1) * stride + 1);
  // Up, right, down, left.
  const ahead = [-stride, 1, stride, -1];
  const level = threshold - 0.5;
  const passed = new Uint8Array(padded.length); // dark pixels whose left edge an outline has gone up along
  let points = new Float64Array(1 << 12);
  let count = 0;
  const starts: number[] = [];

  function* follow(right: number): Work<void> {
    let [left, way] = [right - 1, 0];
    const first = right;
    do {
      if (way === 0) passed[right] = 1;
      if (2 * count + 2 > points.length) points = grown(points);
      const [a, b] = [padded[left], padded[right]];
      const share = (a - level) / (a - b);
      const x = (left % stride) - 0.5;
      const y = Math.floor(left / stride) - 0.5;
      points[2 * count] = x + (way === 0 ? share : way === 2 ? -share : 0);
      points[2 * count + 1] = y + (way === 1 ? share : way === 3 ? -share : 0);
      if (++count % FOLLOWED_AT_ONCE === 0) yield right / padded.length;
      const [frontLeft, frontRight] = [left + ahead[way], right + ahead[way]];
      const [fl, fr] = [padded[frontLeft] < threshold, padded[frontRight] < threshold];
      const joined = padded[left] + padded[right] + padded[frontLeft] + padded[frontRight] < 4 * level;
      if (fl && (fr || joined)) {
        right = frontLeft;
        way = (way + 3) & 3;
      } else if (fr) {
        left = frontLeft;
        right = frontRight;
      } else {
        left = frontRight;
        way = (way + 1) & 3;
      }
    } while (right !== first || way !== 0 || left !== right - 1);
  }

  /** The next dark pixel from one on whose left edge no outline has gone along yet. A plain loop, for it sees every pixel. */
  const nextLeftEdge = (from: number, end: number): number => {
    for (let i = from; i < end; i++)
      if (padded[i] < threshold && padded[i - 1] >= threshold && passed[i] === 0) return i;
    return end;
  };

  const rows = Math.max(1, Math.floor(ROWS_AT_ONCE / stride));
  for (let y = 1; y <= height; y++) {
    if (y % rows === 0) yield y / height;
    const end = y * stride + 1 + width;
    for (let i = nextLeftEdge(y * stride + 1, end); i < end; i = nextLeftEdge(i + 1, end)) {
      starts.push(count);
      yield* follow(i);
    }
  }
  starts.push(count);
  return { points: points.slice(0, 2 * count), starts: Int32Array.from(starts) };
}

function grown(points: Float64Array): Float64Array<ArrayBuffer> {
  const more = new Float64Array(2 * points.length);
  more.set(points);
  return more;
}

/** The points of one outline. */
export const outlineAt = ({ points, starts }: Outlines, k: number): Float64Array =>
  points.subarray(2 * starts[k], 2 * starts[k + 1]);
