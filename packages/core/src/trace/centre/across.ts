import { type Gray } from "../../raster/types";
import { type Point } from "../../fit/line";

/** The middle of a stroke at a place, and how wide it is there, in pixels. */
export interface Across {
  readonly middle: Point;
  readonly wide: number;
}

/** Grey between the middles of pixels, by straight interpolation both ways; white outside. */
function greyAt({ width, height, data }: Gray, x: number, y: number): number {
  const [u, v] = [x - 0.5, y - 0.5];
  const [x0, y0] = [Math.floor(u), Math.floor(v)];
  const [fx, fy] = [u - x0, v - y0];
  const at = (px: number, py: number): number =>
    px < 0 || py < 0 || px >= width || py >= height ? 255 : data[py * width + px];
  return (
    (at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx) * (1 - fy) +
    (at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx) * fy
  );
}

/** Whether all of a disc is darker than a level, by places on its edge and its middle. */
export function isDarkRound(gray: Gray, level: number, [x, y]: Point, radius: number): boolean {
  for (let k = 0; k < 8; k++) {
    const [dx, dy] = EIGHT[k];
    if (greyAt(gray, x + dx * radius, y + dy * radius) >= level) return false;
  }
  return greyAt(gray, x, y) < level;
}
const HALF = Math.SQRT1_2;
const EIGHT = [
  [1, 0],
  [HALF, HALF],
  [0, 1],
  [-HALF, HALF],
  [-1, 0],
  [-HALF, -HALF],
  [0, -1],
  [HALF, -HALF],
] as const;

/** Steps in which an edge is looked for, in pixels. */
const STEP = 0.25;

/** How far the grey stays below a level from a place on, one way; null when it still does at the far end. */
export function darkUntil(
  gray: Gray,
  level: number,
  [x, y]: Point,
  [dx, dy]: Point,
  most: number,
): number | null {
  let before = greyAt(gray, x, y);
  if (before >= level) return 0;
  for (let s = STEP; s <= most; s += STEP) {
    const now = greyAt(gray, x + dx * s, y + dy * s);
    if (now >= level) return s - (STEP * (now - level)) / (now - before);
    before = now;
  }
  return null;
}

/** The stroke across a way at a place. @param most  half the width up to which it is one */
export function acrossAt(
  gray: Gray,
  level: number,
  place: Point,
  [dx, dy]: Point,
  most: number,
): Across | null {
  const [nx, ny] = [-dy, dx];
  const left = darkUntil(gray, level, place, [nx, ny], 2 * most);
  const right = darkUntil(gray, level, place, [-nx, -ny], 2 * most);
  if (left === null || right === null || left + right > 2 * most) return null;
  const shift = (left - right) / 2;
  return { middle: [place[0] + nx * shift, place[1] + ny * shift], wide: left + right };
}
