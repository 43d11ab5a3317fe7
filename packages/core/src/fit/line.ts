export type Point = readonly [number, number];

/** Points one after another, each with how far along it lies from the first. In pixels. */
export interface Line {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly at: Float64Array;
  /** How far the last lies along. */
  readonly length: number;
}

/** @param points  x, y after each other; closed, the first comes once more at the end */
export function lineOf(points: ArrayLike<number>, closed: boolean): Line {
  const count = points.length / 2;
  const [x, y, at] = [0, 0, 0].map(() => new Float64Array(count + +closed));
  for (let k = 0; k < x.length; k++) {
    x[k] = points[2 * (k % count)];
    y[k] = points[2 * (k % count) + 1];
    if (k > 0) at[k] = at[k - 1] + span(x[k] - x[k - 1], y[k] - y[k - 1]);
  }
  return { x, y, at, length: at[at.length - 1] };
}

/** Unlike the built-in of that name it has the same bits in every engine. */
export const span = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);

/** The last point that lies no further along. */
export function indexAt({ at }: Line, s: number): number {
  let [low, high] = [0, at.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (at[middle] <= s) low = middle;
    else high = middle;
  }
  return low;
}

/** The place so far along; of a closed line also before its first and after its last point. */
export function placeAt(line: Line, s: number): Point {
  const { x, y, at, length } = line;
  const along = length > 0 ? s - length * Math.floor(s / length) : 0;
  const k = indexAt(line, along);
  const step = at[k + 1] - at[k];
  const t = step > 0 ? (along - at[k]) / step : 0;
  return [x[k] + (x[k + 1] - x[k]) * t, y[k] + (y[k + 1] - y[k]) * t];
}

/** Direction of one length from a to b; [0, 0] where they are one. */
export function direction(a: Point, b: Point): Point {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const d = span(dx, dy);
  return d > 0 ? [dx / d, dy / d] : [0, 0];
}
