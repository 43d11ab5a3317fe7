import { ClipType, FillRule } from "clipper2-ts";
import { workSlice, type Work } from "../maths/work";
import * as atOnce from "./clip";
import { fromUnits, toUnits } from "./clip";
import { moveOf, type Join } from "./offset";
import { type Ring, type Rings } from "./rings";
import { clipInSlices, offsetInSlices } from "./sweep";

/*
 * What `clip.ts` and `offset.ts` do, to the bit, as work with pauses: for outlines of a trace or a cut line, which may have
 * a hundred thousand corners. Those in one call are for shapes known to be small.
 */

function* clipped(type: ClipType, a: Rings, b: Rings | null, rule: FillRule): Work<Ring[]> {
  return fromUnits(yield* clipInSlices(type, toUnits(a), b && toUnits(b), rule));
}

/** Everything that closed lines go round an odd number of times, as rings. */
export const evenOdd = (lines: Rings): Work<Ring[]> => clipped(ClipType.Union, lines, null, FillRule.EvenOdd);

/** All that lies in either of two areas. */
export const joined = (a: Rings, b: Rings): Work<Ring[]> => clipped(ClipType.Union, a, b, FillRule.NonZero);

/** What of one area does not lie in another. */
export const without = (a: Rings, b: Rings): Work<Ring[]> =>
  clipped(ClipType.Difference, a, b, FillRule.NonZero);

/** What lies in both of two areas. */
export const common = (a: Rings, b: Rings): Work<Ring[]> =>
  clipped(ClipType.Intersection, a, b, FillRule.NonZero);

/** Corners of rings that are made simpler between two slices. */
const CORNERS = 8192;

/** Rings with fewer corners, none of which strays further than so many mm. */
export function* simplified(rings: Rings, withinMm: number): Work<Ring[]> {
  const out: Ring[] = [];
  let corners = 0;
  for (const [k, ring] of rings.entries()) {
    out.push(...atOnce.simplified([ring], withinMm));
    corners += ring.length / 2;
    if (corners < CORNERS) continue;
    corners = 0;
    yield k / rings.length;
  }
  return out;
}

/** An area grown by a distance in mm, or made smaller by it. @param arcMm  as `moveOf` takes it */
export function* offset(rings: Rings, byMm: number, join: Join = "round", arcMm?: number): Work<Ring[]> {
  if (byMm === 0) return [...rings];
  const { move, plainer } = moveOf(rings, byMm, join, arcMm);
  return fromUnits(plainer(yield* offsetInSlices(toUnits(rings), move)));
}

/** Moved by a distance and back again: closed by a disc outwards, opened by one inwards. */
function* thereAndBack(rings: Rings, byMm: number, arcMm?: number): Work<Ring[]> {
  const moved = yield* workSlice(offset(rings, byMm, "round", arcMm), 0, 0.5);
  return yield* workSlice(offset(moved, -byMm, "round", arcMm), 0.5, 1);
}

/** What a disc of a radius reaches without leaving the area. */
export const opened = (rings: Rings, radiusMm: number, arcMm?: number): Work<Ring[]> =>
  thereAndBack(rings, -radiusMm, arcMm);

/** The area with whatever no disc of a radius reaches from outside. */
export const closed = (rings: Rings, radiusMm: number, arcMm?: number): Work<Ring[]> =>
  thereAndBack(rings, radiusMm, arcMm);
