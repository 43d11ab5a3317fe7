import { placeInMm, type Place } from "../inspect/check";
import { partsOf, RingsAround } from "../polygon/around";
import {
  goesRound,
  ringArea,
  ringBox,
  ringsOfParts,
  type Part,
  type Ring,
  type Rings,
} from "../polygon/rings";
import { type Rect } from "../raster/types";

/** A hole in the piece, before a border makes it smaller. */
export interface CutGap {
  readonly areaMm2: number;
  /** A place inside it, in mm. */
  readonly at: readonly [number, number];
  readonly box: Place;
  readonly filled: boolean;
}

export interface GapWish {
  /** Gaps under this area are filled. */
  readonly fillSmallerThanMm2: number;
  /** Places, in mm, of gaps that stay open, and that are filled, whatever their area. */
  readonly keep: readonly (readonly [number, number])[];
  readonly fill: readonly (readonly [number, number])[];
}

/**
 * The area with gaps filled, and all gaps, largest first.
 *
 * @param known  gaps that were found before: what lies in one of them is left as it is
 */
export function withoutGaps(
  rings: Rings,
  wish: GapWish,
  known: readonly CutGap[] = [],
): { readonly rings: Ring[]; readonly gaps: CutGap[] } {
  const gaps: CutGap[] = [];
  const parts = partsOf(rings).map(({ outer, holes }) => ({
    outer,
    holes: holes.filter((hole) => {
      const areaMm2 = -ringArea(hole);
      if (known.some((gap) => isIn(ringBox(hole), gap.box))) return true;
      const holds = ([x, y]: readonly [number, number]) => goesRound(hole, x, y);
      const filled = wish.fill.some(holds) || (areaMm2 < wish.fillSmallerThanMm2 && !wish.keep.some(holds));
      gaps.push({
        areaMm2,
        at: placeIn(hole),
        box: placeInMm(ringBox(hole)),
        filled,
      });
      return !filled;
    }),
  }));
  return { rings: islandsMerged(parts), gaps: gaps.sort((a, b) => b.areaMm2 - a.areaMm2) };
}

const isIn = (a: Rect, b: Place): boolean =>
  a.x >= b.xMm && a.y >= b.yMm && a.x + a.width <= b.xMm + b.widthMm && a.y + a.height <= b.yMm + b.heightMm;

/** What lay in a gap that was filled is part of the filling. */
function islandsMerged(parts: readonly Part[]): Ring[] {
  const around = new RingsAround(parts.map(({ outer }) => outer));
  const holes = parts.flatMap((part, of) => part.holes.map((ring) => ({ ring, of })));
  const inHoles = new RingsAround(holes.map(({ ring }) => ring));
  return ringsOfParts(
    parts.filter(({ outer: [x, y] }, k) => {
      const open = new Set(inHoles.round(x, y).map((hole) => holes[hole].of));
      const wider = (o: number) => around.boxOf(o).width >= around.boxOf(k).width;
      return around.round(x, y).every((o) => o === k || !wider(o) || open.has(o));
    }),
  );
}

/** A place well inside a ring: the middle of the longest stretch on a few level lines through it. */
export function placeIn(ring: Ring): readonly [number, number] {
  const box = ringBox(ring);
  let best: readonly [number, number] = [ring[0], ring[1]];
  let longest = -1;
  for (const share of [0.5, 0.38, 0.62, 0.25, 0.75]) {
    const y = box.y + share * box.height;
    const crossings: number[] = [];
    for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
      const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[k], ring[k + 1]];
      if (ay > y !== by > y) crossings.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
    }
    crossings.sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const length = crossings[k + 1] - crossings[k];
      if (length > longest) [longest, best] = [length, [(crossings[k] + crossings[k + 1]) / 2, y]];
    }
  }
  return best;
}
