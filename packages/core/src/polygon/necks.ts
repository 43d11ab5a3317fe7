import { workSlice, type Work } from "../maths/work";
import { unreached } from "./parts";
import { segmentsOf, nearTo } from "./segments";
import { partsOf } from "./around";
import { closedUp, ringBox, type Ring, type Rings } from "./rings";
import { type Rect } from "../raster/types";

/** Where an area is thin, and how thin. */
export interface Neck {
  readonly widthMm: number;
  readonly box: Rect;
}

/** Widths are found to this, in mm. */
const FINE_MM = 0.01;
/** Widths tried before the thinnest is closed in on; of outlines of many corners the last alone. */
const [TRIES, MANY] = [8, 2000];

/**
 * The thinnest place of an area between two larger ones: the diameter of the largest disc that passes along everywhere.
 * Where a disc that is a little larger cannot reach, and what it cannot reach lies between two places that it can.
 * Walls between a hole and the outside, or another hole, count as well.
 *
 * @param upToMm  wider ones are not looked for
 * @returns null where there is none up to that
 */
export function* thinnestNeck(rings: Rings, upToMm: number): Work<Neck | null> {
  const neckAt = function* (width: number): Work<Ring | null> {
    const thin = yield* unreached(rings, width / 2);
    return thin.find(({ touches }) => touches > 1)?.part.outer ?? null;
  };
  let [low, high] = [0, 0];
  let found: Ring | null = null;
  const tries = rings.reduce((sum, r) => sum + r.length / 2, 0) > MANY ? 1 : TRIES;
  for (let k = 1; k <= tries && !found; k++) {
    [low, high] = [high, (upToMm * k) / tries];
    found = yield* workSlice(neckAt(high), (0.5 * (k - 1)) / tries, (0.5 * k) / tries);
  }
  if (found)
    while (high - low > (tries === 1 ? upToMm / 4 : FINE_MM)) {
      const middle = (low + high) / 2;
      const neck = yield* workSlice(neckAt(middle), 0.5, 0.9);
      if (neck) [high, found] = [middle, neck];
      else low = middle;
    }
  const neck = found && { widthMm: high, box: ringBox(found) };
  const wall = yield* workSlice(thinnestWall(rings, upToMm), 0.9, 1);
  if (!neck || (wall && wall.widthMm < neck.widthMm)) return wall;
  return neck;
}

/** Pieces looked at between two slices. */
const PIECES_AT_ONCE = 2048;

/** The least distance between two rings of one part. */
export function* thinnestWall(rings: Rings, upToMm: number): Work<Neck | null> {
  let best: Neck | null = null;
  for (const { outer, holes } of partsOf(rings)) {
    if (holes.length === 0) continue;
    const lines = [outer, ...holes].map((ring) => ({ points: closedUp(ring), closed: true }));
    const segments = yield* workSlice(segmentsOf(lines, upToMm), 0, 0.5);
    for (let s = 0; s < segments.count; s++) {
      if (s % PIECES_AT_ONCE === 0) yield 0.5 + (0.5 * s) / segments.count;
      for (const other of nearTo(segments, s, best ? best.widthMm : upToMm)) {
        if (segments.line[other] === segments.line[s]) continue;
        const wall = fromPoint(segments.ends, s, other);
        if (wall.widthMm < (best?.widthMm ?? upToMm)) best = wall;
      }
    }
  }
  return best;
}

/** Distance from where one piece begins to another: where two pieces are nearest, one of them ends. */
function fromPoint(ends: Float64Array, s: number, other: number): Neck {
  const [x, y] = [ends[4 * s], ends[4 * s + 1]];
  const [ax, ay, bx, by] = ends.subarray(4 * other, 4 * other + 4);
  const [dx, dy] = [bx - ax, by - ay];
  const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
  const [px, py] = [ax + t * dx, ay + t * dy];
  const box = { x: Math.min(x, px), y: Math.min(y, py), width: Math.abs(px - x), height: Math.abs(py - y) };
  return { widthMm: Math.sqrt((px - x) * (px - x) + (py - y) * (py - y)), box };
}
