import { type PathSet, pathSetOf, type KnotPath } from "../path/pathSet";
import { flattened } from "../path/flatten";

// Thresholds: what they decide is measured by `npm run nests`.

/** Lines this near to one another are the same, in mm. */
const NEAR = 0.02;

/** A straight side that runs across or down: where it lies, and from where to where. */
interface Side {
  readonly down: boolean;
  readonly at: number;
  from: number;
  to: number;
}

/**
 * The same lines with those of rectangles that lie on one another taken once: rows of rectangles are then cut by long lines.
 * Other shapes stay as they are.
 */
export function withCommonLines(set: PathSet): PathSet {
  const others: KnotPath[] = [];
  const sides: Side[] = [];
  for (const { points, closed } of flattened(set, 0.002)) {
    const own = closed ? sidesOf(points) : null;
    if (own) sides.push(...own);
    else others.push(asKnots(points, closed));
  }
  if (sides.length === 0) return set;
  const { points: _, starts: __, closed: ___, ...look } = set;
  const lines = merged(sides).map(({ down, at, from, to }): KnotPath => {
    const end = (v: number) => ({ at: down ? ([at, v] as const) : ([v, at] as const) });
    return { knots: [end(from), end(to)], closed: false };
  });
  return { ...look, ...pathSetOf(look, [...lines, ...others]) };
}

const asKnots = (points: Float64Array, closed: boolean): KnotPath => {
  const last = closed ? points.length - 2 : points.length;
  const knots = [];
  for (let k = 0; k < last; k += 2) knots.push({ at: [points[k], points[k + 1]] as const });
  return { knots, closed };
};

/** The four sides of an upright rectangle; null for any other line. */
function sidesOf(points: Float64Array): Side[] | null {
  if (points.length !== 10) return null;
  const sides: Side[] = [];
  for (let k = 0; k < 8; k += 2) {
    const [ax, ay, bx, by] = points.subarray(k, k + 4);
    const down = Math.abs(ax - bx) < 1e-6;
    if (!down && Math.abs(ay - by) > 1e-6) return null;
    const [a, b] = down ? [ay, by] : [ax, bx];
    sides.push({ down, at: down ? ax : ay, from: Math.min(a, b), to: Math.max(a, b) });
  }
  return sides;
}

function merged(sides: readonly Side[]): Side[] {
  const order = sides.toSorted((a, b) => +a.down - +b.down || a.at - b.at || a.from - b.from);
  const out: Side[] = [];
  for (const side of order) {
    const on = out.find(
      (o) =>
        o.down === side.down &&
        Math.abs(o.at - side.at) < NEAR &&
        side.from <= o.to + NEAR &&
        side.to >= o.from - NEAR,
    );
    if (on) {
      on.from = Math.min(on.from, side.from);
      on.to = Math.max(on.to, side.to);
    } else out.push({ ...side });
  }
  return out;
}
