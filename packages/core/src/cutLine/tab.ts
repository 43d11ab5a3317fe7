import { workSlice, type Work } from "../maths/work";
import { closed, joined, offset, without } from "../polygon/inSlices";
import { partsOf } from "../polygon/around";
import { circleRing, goesRound, ringArea, ringsOfParts, type Ring, type Rings } from "../polygon/rings";
import { direction, type Point } from "../fit/line";

export interface TabWish {
  /** Diameters, in mm. */
  readonly holeMm: number;
  readonly ringMm: number;
  /** The top of the piece, or the place of its outline nearest to one in mm. */
  readonly at: "top" | Point;
}

/** Outlines this near to the topmost point are as high, in mm. */
const LEVEL_MM = 0.05;

/**
 * An area with a ring joined to its outline, and the hole through it. The ring stands out so far that half of its wall
 * overlaps the area; where ring and outline meet, shoulders as round as the wall is thick widen the joint.
 *
 * @returns the middle of the hole besides; null where there is no area to join it to
 */
export function* withTab(
  rings: Rings,
  { holeMm, ringMm, at }: TabWish,
): Work<{ readonly rings: Ring[]; readonly middle: Point } | null> {
  const spot = at === "top" ? topOf(rings) : nearestOn(rings, at);
  if (!spot) return null;
  const [hole, ring] = [holeMm / 2, ringMm / 2];
  const wall = ring - hole;
  const out = hole + wall / 2;
  const middle: Point = [spot.at[0] + spot.out[0] * out, spot.at[1] + spot.out[1] * out];
  const disc = circleRing(middle[0], middle[1], ring);
  const plain = yield* workSlice(joined(rings, [disc]), 0, 0.2);
  const round = yield* workSlice(closed(plain, wall), 0.2, 0.5);
  const shoulders = partsOf(yield* workSlice(without(round, plain), 0.5, 0.7)).filter(
    ({ outer }) => ringArea(outer) > NOTHING_MM2 && reaches(outer, middle, ring + SEAM_MM),
  );
  // A hair wider, so that they join what they only touch.
  const wider = yield* offset(ringsOfParts(shoulders), SEAM_MM / 10);
  const whole = yield* workSlice(joined(plain, wider), 0.7, 0.85);
  const holed = yield* workSlice(without(whole, [circleRing(middle[0], middle[1], hole)]), 0.85, 1);
  return { rings: holed, middle };
}

const NOTHING_MM2 = 1e-4;
const SEAM_MM = 0.01;

const reaches = (ring: Ring, [x, y]: Point, radius: number): boolean => {
  for (let k = 0; k < ring.length; k += 2) {
    const [dx, dy] = [ring[k] - x, ring[k + 1] - y];
    if (dx * dx + dy * dy <= radius * radius) return true;
  }
  return goesRound(ring, x, y);
};

/** A place of an outline and the way out of the area there. */
interface Spot {
  readonly at: Point;
  readonly out: Point;
}

function topOf(rings: Rings): Spot | null {
  const outers = rings.filter((r) => ringArea(r) > 0);
  let top = Infinity;
  for (const ring of outers) for (let k = 1; k < ring.length; k += 2) top = Math.min(top, ring[k]);
  if (top === Infinity) return null;
  // Of a level edge the middle, of several tops as high the one nearest to their middle.
  const level: Point[] = [];
  for (const ring of outers)
    for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
      if (ring[k + 1] > top + LEVEL_MM) continue;
      level.push([ring[k], ring[k + 1]]);
      if (ring[j + 1] <= top + LEVEL_MM)
        level.push([(ring[j] + ring[k]) / 2, (ring[j + 1] + ring[k + 1]) / 2]);
    }
  const xs = level.map(([x]) => x);
  const middle = (Math.min(...xs) + Math.max(...xs)) / 2;
  const at = level.reduce((a, b) => (Math.abs(b[0] - middle) < Math.abs(a[0] - middle) ? b : a));
  return { at, out: [0, -1] };
}

/** The place of any outer ring nearest to one, and the way square to the outline there, out of the area. */
export function nearestOn(rings: Rings, [x, y]: Point): Spot | null {
  let best: Spot | null = null;
  let nearest = Infinity;
  for (const ring of rings) {
    if (ringArea(ring) <= 0) continue;
    for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
      const [ax, ay, dx, dy] = [ring[j], ring[j + 1], ring[k] - ring[j], ring[k + 1] - ring[j + 1]];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      const at: Point = [ax + t * dx, ay + t * dy];
      const off = (at[0] - x) * (at[0] - x) + (at[1] - y) * (at[1] - y);
      if (off >= nearest) continue;
      nearest = off;
      // Clockwise on the screen, the area lies to the right of the way it runs.
      const [ux, uy] = direction([0, 0], [dx, dy]);
      best = { at, out: [uy, -ux] };
    }
  }
  return best;
}
