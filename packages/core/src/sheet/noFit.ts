import { goesRound, ringBox, type Ring } from "../polygon/rings";
import { type PlaceGrid } from "./placeGrid";

/** Places nearer to a boundary than this, in grid steps, are taken: a place between two crossings must not slip through. */
const TOUCH = 1e-6;

/**
 * Takes every place of a grid at which a moving outline would lie over a fixed one: where a side of the one crosses a side
 * of the other, which is a parallelogram of places for each two sides; and where either holds the other.
 *
 * @param grid    of places, `step` mm apart; place 0, 0 leaves the moving outline where it is given
 * @param fixed   in mm
 * @param moving  in mm
 * @param skip    places by which the grid begins further left and up
 * @see Lozano-Pérez, "Spatial planning: a configuration space approach", IEEE Trans. Computers C-32, 1983
 */
export function takeNoFit(
  grid: PlaceGrid,
  fixed: Ring,
  moving: Ring,
  step: number,
  skip: readonly [number, number] = [0, 0],
): void {
  const [sx, sy] = skip;
  const scale = 1 / step;
  const quad = new Float64Array(8);
  for (let i = 0, h = fixed.length - 2; i < fixed.length; h = i, i += 2)
    for (let j = 0, k = moving.length - 2; j < moving.length; k = j, j += 2) {
      for (let c = 0; c < 4; c++) {
        const [a, b] = [c === 1 || c === 2 ? i : h, c >= 2 ? j : k];
        quad[2 * c] = (fixed[a] - moving[b]) * scale - sx;
        quad[2 * c + 1] = (fixed[a + 1] - moving[b + 1]) * scale - sy;
      }
      takeConvex(grid, quad);
    }
  // Wholly inside: the first corner of the one lies in the other.
  const inFixed = fixed.map((v, k) => (v - moving[k % 2]) * scale - skip[k % 2]);
  const inMoving = moving.map((v, k) => (fixed[k % 2] - v) * scale - skip[k % 2]);
  takeInside(grid, inFixed);
  takeInside(grid, inMoving);
}

function takeConvex(grid: PlaceGrid, quad: Float64Array): void {
  const low = Math.min(quad[1], quad[3], quad[5], quad[7]);
  const high = Math.max(quad[1], quad[3], quad[5], quad[7]);
  const first = Math.max(0, Math.ceil(low - TOUCH));
  const last = Math.min(grid.height - 1, Math.floor(high + TOUCH));
  for (let y = first; y <= last; y++) {
    let [left, right] = [Infinity, -Infinity];
    for (let c = 0, d = 3; c < 4; d = c++) {
      const [ay, by] = [quad[2 * d + 1], quad[2 * c + 1]];
      if (Math.max(ay, by) < y - TOUCH || Math.min(ay, by) > y + TOUCH) continue;
      const [ax, bx] = [quad[2 * d], quad[2 * c]];
      if (Math.abs(ay - by) < 2 * TOUCH) {
        left = Math.min(left, ax, bx);
        right = Math.max(right, ax, bx);
      } else {
        const x = ax + Math.min(1, Math.max(0, (y - ay) / (by - ay))) * (bx - ax);
        left = Math.min(left, x);
        right = Math.max(right, x);
      }
    }
    grid.take(y, Math.ceil(left - TOUCH), Math.floor(right + TOUCH));
  }
}

/** Places strictly inside a ring that is given in places. */
function takeInside(grid: PlaceGrid, ring: Float64Array): void {
  let [low, high] = [Infinity, -Infinity];
  for (let k = 1; k < ring.length; k += 2) {
    low = Math.min(low, ring[k]);
    high = Math.max(high, ring[k]);
  }
  const crossings: number[] = [];
  for (let y = Math.max(0, Math.ceil(low)); y <= Math.min(grid.height - 1, Math.floor(high)); y++) {
    crossings.length = 0;
    for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
      const [ay, by] = [ring[j + 1], ring[k + 1]];
      if (ay > y !== by > y) crossings.push(ring[j] + ((y - ay) / (by - ay)) * (ring[k] - ring[j]));
    }
    crossings.sort((a, b) => a - b);
    for (let c = 0; c + 1 < crossings.length; c += 2)
      grid.take(y, Math.ceil(crossings[c] + TOUCH), Math.floor(crossings[c + 1] - TOUCH));
  }
}

/** How much may still be looked at: sides held against each other. Who runs out of it stops, and says so. */
export interface Effort {
  left: number;
}

/**
 * Whether two outlines lie over each other; touching is none.
 * @param dx, dy  how far the second is moved before, in mm
 */
export function overlap(a: Ring, b: Ring, dx = 0, dy = 0, effort?: Effort): boolean {
  const [boxA, boxB] = [ringBox(a), ringBox(b)];
  const near = sidesNear(a, boxB.x + dx, boxB.y + dy, boxB.width, boxB.height, 0, 0);
  const other = sidesNear(b, boxA.x, boxA.y, boxA.width, boxA.height, dx, dy);
  if (effort) effort.left -= a.length + b.length + (near.length * other.length) / 16;
  for (let k = 0; k < near.length; k += 4) {
    const [ax, ay, bx, by] = [near[k], near[k + 1], near[k + 2], near[k + 3]];
    const [left, right] = ax < bx ? [ax, bx] : [bx, ax];
    for (let j = 0; j < other.length; j += 4) {
      const [cx, ex] = [other[j], other[j + 2]];
      if ((cx < left && ex < left) || (cx > right && ex > right)) continue;
      if (cross(ax, ay, bx, by, cx, other[j + 1], ex, other[j + 3])) return true;
    }
  }
  return goesRound(a, b[0] + dx, b[1] + dy) || goesRound(b, a[0] - dx, a[1] - dy);
}

/** The sides of an outline, moved so far, that come into a box: x, y of either end. */
function sidesNear(
  ring: Ring,
  x: number,
  y: number,
  width: number,
  height: number,
  dx: number,
  dy: number,
): number[] {
  const sides: number[] = [];
  for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
    const [ax, ay, bx, by] = [ring[j] + dx, ring[j + 1] + dy, ring[k] + dx, ring[k + 1] + dy];
    if (Math.max(ax, bx) < x || Math.min(ax, bx) > x + width) continue;
    if (Math.max(ay, by) < y || Math.min(ay, by) > y + height) continue;
    sides.push(ax, ay, bx, by);
  }
  return sides;
}

function cross(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
): boolean {
  const side = (px: number, py: number, qx: number, qy: number, rx: number, ry: number): number =>
    (qx - px) * (ry - py) - (qy - py) * (rx - px);
  const [c, d] = [side(ax, ay, bx, by, cx, cy), side(ax, ay, bx, by, dx, dy)];
  const [a, b] = [side(cx, cy, dx, dy, ax, ay), side(cx, cy, dx, dy, bx, by)];
  return c > 0 !== d > 0 && a > 0 !== b > 0 && c !== 0 && d !== 0 && a !== 0 && b !== 0;
}
