import { cosPi, sinPi } from "../maths/steady";
import { flattened } from "../path/flatten";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { type Point } from "../fit/line";

/** What letters stand on: where a place along it lies, and which way it runs there. Lengths in mm, y downwards. */
export interface Baseline {
  readonly at: (along: number) => { readonly place: Point; readonly way: Point };
  /** How much room there is; Infinity on a straight line. */
  readonly length: number;
}

export const straight: Baseline = {
  at: (along) => ({ place: [along, 0], way: [1, 0] }),
  length: Infinity,
};

/**
 * A circle about 0, 0. Outside, the feet stand on it, text runs clockwise and 0 is at its top; inside, the heads point to
 * its middle, text runs the other way, and 0 is at its foot, so that both read upright.
 */
export function circle(radius: number, side: "outside" | "inside"): Baseline {
  const turns = side === "outside" ? 1 : -1;
  return {
    length: 2 * Math.PI * radius,
    at(along) {
      const angle = along / radius / Math.PI;
      const [s, c] = [sinPi(angle), cosPi(angle)];
      return { place: [radius * s, -turns * radius * c], way: [c, turns * s] };
    },
  };
}

/** An arc through 0, 0, level there: it falls to both sides, or, of a radius under 0, rises. */
export function arc(radius: number): Baseline {
  const on = circle(Math.abs(radius), radius > 0 ? "outside" : "inside");
  return {
    ...on,
    at(along) {
      const { place, way } = on.at(along);
      return { place: [place[0], place[1] + radius], way };
    },
  };
}

/** Straight pieces that letters stand on stay so near to a curve, in mm. */
const NEAR_MM = 0.005;
const LOOK = { name: "", use: "score", colour: 0 } as const;

/**
 * A path, from a place on it on: closed ones go round, open ones go on straight beyond their ends. Letters stand on its left
 * as it runs; `flipped` on its right.
 */
export function alongPath(path: KnotPath, from: Point, flipped = false): Baseline {
  const [{ points }] = flattened(pathSetOf(LOOK, [path]), NEAR_MM);
  const line = flipped ? backwards(points) : points;
  const ends = [0];
  for (let k = 2; k < line.length; k += 2)
    ends.push(ends[ends.length - 1] + span(line[k] - line[k - 2], line[k + 1] - line[k - 1]));
  const length = ends[ends.length - 1];
  const start = nearestAlong(line, ends, from);
  return {
    length,
    at(along) {
      const round = path.closed ? (((start + along) % length) + length) % length : start + along;
      let [low, high] = [0, ends.length - 2];
      while (low < high) {
        const middle = (low + high + 1) >> 1;
        if (ends[middle] <= round) low = middle;
        else high = middle - 1;
      }
      const [ax, ay] = [line[2 * low], line[2 * low + 1]];
      const [dx, dy] = [line[2 * low + 2] - ax, line[2 * low + 3] - ay];
      const by = span(dx, dy) || 1;
      const way: Point = [dx / by, dy / by];
      const on = round - ends[low];
      return { place: [ax + way[0] * on, ay + way[1] * on], way };
    },
  };
}

function nearestAlong(line: Float64Array, ends: readonly number[], [x, y]: Point): number {
  let [best, least] = [0, Infinity];
  for (let k = 0; k + 1 < ends.length; k++) {
    const [ax, ay] = [line[2 * k], line[2 * k + 1]];
    const [dx, dy] = [line[2 * k + 2] - ax, line[2 * k + 3] - ay];
    const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    const off = span(ax + t * dx - x, ay + t * dy - y);
    if (off < least) [best, least] = [ends[k] + t * (ends[k + 1] - ends[k]), off];
  }
  return best;
}

function backwards(points: Float64Array): Float64Array {
  const out = new Float64Array(points.length);
  for (let k = 0; k < points.length; k += 2) out.set([points[k], points[k + 1]], points.length - 2 - k);
  return out;
}

const span = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);
