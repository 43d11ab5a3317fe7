import { sinPi } from "../maths/steady";
import { type Rect } from "../raster/types";

/** A closed line of straight pieces: x, y of every corner, in mm; the last joins the first again. */
export type Ring = Float64Array;

/**
 * Rings that bound an area: outer ones run clockwise on the screen, holes the other way; none crosses itself or another.
 * In mm, from the finished piece's top left.
 */
export type Rings = readonly Ring[];

/** Area that a ring goes round, in mm2 or whatever it is in: positive when clockwise on the screen. */
export function ringArea(ring: ArrayLike<number>): number {
  let sum = 0;
  for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2)
    sum += ring[j] * ring[k + 1] - ring[k] * ring[j + 1];
  return sum / 2;
}

/** Area in mm2 of all that rings bound, holes taken out. */
export const areaOf = (rings: Rings): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0);

/** Length of a ring in mm. */
export function ringLength(ring: Ring): number {
  let length = 0;
  for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
    const [dx, dy] = [ring[k] - ring[j], ring[k + 1] - ring[j + 1]];
    length += Math.sqrt(dx * dx + dy * dy);
  }
  return length;
}

/** The same ring run the other way. */
export function reversedRing(ring: Ring): Ring {
  const out = new Float64Array(ring.length);
  for (let k = 0; k < ring.length; k += 2) out.set([ring[k], ring[k + 1]], ring.length - 2 - k);
  return out;
}

/** A ring as a line that names its first place again at its end. */
export function closedUp(ring: Ring): Float64Array {
  const points = new Float64Array(ring.length + 2);
  points.set(ring);
  points.set(ring.subarray(0, 2), ring.length);
  return points;
}

/** Box of a ring. */
export function ringBox(ring: Ring): Rect {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < ring.length; k += 2) {
    left = Math.min(left, ring[k]);
    right = Math.max(right, ring[k]);
    top = Math.min(top, ring[k + 1]);
    bottom = Math.max(bottom, ring[k + 1]);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Whether a ring goes round a place: a line from it to the right crosses the ring an odd number of times. */
export function goesRound(ring: Ring, x: number, y: number): boolean {
  let inside = false;
  for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
    const [ax, ay, bx, by] = [ring[k], ring[k + 1], ring[j], ring[j + 1]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** Whether a place lies in the area that rings bound. */
export const isInside = (rings: Rings, x: number, y: number): boolean =>
  rings.reduce((inside, ring) => inside !== goesRound(ring, x, y), false);

/** A part of an area that hangs together: its outer ring and the holes in it. */
export interface Part {
  readonly outer: Ring;
  readonly holes: readonly Ring[];
}

/** The rings of parts, each outer one followed by its holes. */
export const ringsOfParts = (parts: readonly Part[]): Ring[] => parts.flatMap((p) => [p.outer, ...p.holes]);

/** A circle as a ring of the same area, clockwise, that strays from it by `offMm` at most. */
export function circleRing(x: number, y: number, radiusMm: number, offMm = 0.001): Ring {
  const sides = Math.max(24, Math.ceil(SIDES * Math.sqrt(radiusMm / offMm)));
  // Corners a little outside make up for what the sides cut off.
  const step = (2 * Math.PI) / sides;
  const radius = radiusMm * (1 + (step * step) / 12);
  const ring = new Float64Array(2 * sides);
  for (let k = 0; k < sides; k++) {
    const halves = (2 * k) / sides;
    ring[2 * k] = x + radius * sinPi(halves + 0.5);
    ring[2 * k + 1] = y + radius * sinPi(halves);
  }
  return ring;
}

/** A side strays from its arc by r (2 pi / sides)² / 8: sides are so many times the root of radius over stray. */
const SIDES = 2.25;
