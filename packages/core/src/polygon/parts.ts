import { workSlice, type Work } from "../maths/work";
import { closed, joined, offset, opened, without } from "./inSlices";
import { segmentsOf, within } from "./segments";
import { partsOf } from "./around";
import { areaOf, closedUp, ringArea, ringsOfParts, type Part, type Ring, type Rings } from "./rings";

const sizeOf = ({ outer, holes }: Part): number => areaOf([outer, ...holes]);

/** Parts from a size on; of several, when wished, the largest alone. */
export function keptParts(rings: Rings, keep: "all" | "largest", smallestMm2: number): Ring[] {
  const parts = partsOf(rings).filter((p) => sizeOf(p) >= smallestMm2);
  if (keep === "all" || parts.length < 2) return ringsOfParts(parts);
  return ringsOfParts([parts.reduce((a, b) => (sizeOf(b) > sizeOf(a) ? b : a))]);
}

/** What the two ways of drawing a curve leave between them, in mm2, is nothing. */
const NOTHING_MM2 = 0.002;

/** What two areas count as touching across, in mm: several units of clipping. */
const TOUCH_MM = 0.004;

/**
 * Parts nearer to each other than a distance become one: a disc of half of it cannot pass between them, and what it does
 * not reach there is filled. Dents of a part by itself are left as they are.
 */
export function* bridged(rings: Rings, nearerThanMm: number, arcMm?: number): Work<Ring[]> {
  const parts = partsOf(rings);
  if (parts.length < 2 || nearerThanMm <= 0) return [...rings];
  const round = yield* workSlice(closed(rings, nearerThanMm / 2, arcMm), 0, 0.5);
  const filled = yield* workSlice(without(round, rings), 0.5, 0.6);
  const fillings = partsOf(filled).filter((fill) => ringArea(fill.outer) >= NOTHING_MM2);
  const touches = yield* workSlice(touchesOf(fillings, parts), 0.6, 0.7);
  const bridges = fillings.filter((_, k) => touches[k] > 1);
  // A hair wider, so that sides that only touch are joined.
  const wider = yield* workSlice(offset(ringsOfParts(bridges), TOUCH_MM), 0.7, 0.8);
  return yield* workSlice(joined(rings, wider), 0.8, 1);
}

/** A piece that a disc does not reach, and how many parts of what it does reach it lies between. */
export interface Unreached {
  readonly part: Part;
  readonly touches: number;
}

/** What a disc of a radius does not reach within an area, piece by piece, and how many parts of the rest each touches. */
export function* unreached(rings: Rings, radiusMm: number, arcMm?: number): Work<Unreached[]> {
  const reached = yield* workSlice(opened(rings, radiusMm, arcMm), 0, 0.7);
  return yield* workSlice(unreachedBeside(rings, reached), 0.7, 1);
}

/** What of an area is not in the rest of it, which a disc reaches. */
function* unreachedBeside(rings: Rings, rest: Rings): Work<Unreached[]> {
  const outside = partsOf(yield* workSlice(without(rings, rest), 0, 0.5));
  const left = outside.filter(({ outer }) => ringArea(outer) > NOTHING_MM2);
  const touches = yield* workSlice(touchesOf(left, partsOf(rest)), 0.5, 1);
  return left.map((part, k) => ({ part, touches: touches[k] }));
}

/** Corners looked at between two slices. */
const CORNERS_AT_ONCE = 4096;

/** How many of some parts each of others touches: has their edge at its own, or as good as there. */
function* touchesOf(pieces: readonly Part[], parts: readonly Part[]): Work<number[]> {
  const rings = parts.flatMap(({ outer, holes }, own) => [outer, ...holes].map((ring) => ({ ring, own })));
  const lines = rings.map(({ ring }) => ({ points: closedUp(ring), closed: true }));
  const segments = yield* workSlice(segmentsOf(lines, TOUCH_MM), 0, 0.5);
  const counts: number[] = [];
  let looked = 0;
  for (const { outer } of pieces) {
    const touched = new Set<number>();
    for (let k = 0; k < outer.length; k += 2) {
      if (looked++ % CORNERS_AT_ONCE === 0) yield 0.5 + (0.5 * counts.length) / pieces.length;
      for (const s of within(segments, outer[k], outer[k + 1], TOUCH_MM))
        touched.add(rings[segments.line[s]].own);
    }
    counts.push(touched.size);
  }
  return counts;
}

/** Of a disc's radius squared: less is what a disc leaves in a corner, more sticks out of the area as a spike. */
const CORNER_SHARE = 0.25;

/**
 * An area without dents and spikes that a disc of a radius does not reach; it keeps its size. Spikes go first, so that
 * their feet are not filled as dents are. A spike larger than the disc itself is a limb of the art, such as a feeler or a
 * mast: it stays.
 */
export function* smoothed(rings: Rings, radiusMm: number, arcMm?: number): Work<Ring[]> {
  const [corner, disc] = [CORNER_SHARE * radiusMm * radiusMm, Math.PI * radiusMm * radiusMm];
  const spikes = (yield* workSlice(unreached(rings, radiusMm, arcMm), 0, 0.3)).filter(({ part, touches }) => {
    const area = ringArea(part.outer);
    return touches < 2 && area > corner && area <= disc;
  });
  // A hair wider, so that nothing is left of them.
  const taken = yield* workSlice(offset(ringsOfParts(spikes.map((s) => s.part)), TOUCH_MM), 0.3, 0.35);
  const plain = yield* workSlice(without(rings, taken), 0.35, 0.4);
  const filled = yield* workSlice(closed(plain, radiusMm, arcMm), 0.4, 0.6);
  const reached = yield* workSlice(opened(filled, radiusMm, arcMm), 0.6, 0.8);
  const beside = yield* workSlice(unreachedBeside(filled, reached), 0.8, 0.9);
  const limbs = beside.filter(({ part, touches }) => touches > 1 || ringArea(part.outer) > disc);
  const kept = yield* workSlice(offset(ringsOfParts(limbs.map((l) => l.part)), TOUCH_MM), 0.9, 0.95);
  return yield* workSlice(joined(reached, kept), 0.95, 1);
}
