import { workSlice, type Work } from "../maths/work";
import { joined, without } from "./clip";
import { closed, offset, opened } from "./offset";
import { segmentsOf, within } from "./segments";
import { areaOf, closedUp, partsOf, ringArea, ringsOfParts, type Part, type Ring, type Rings } from "./rings";

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
export function bridged(rings: Rings, nearerThanMm: number): Ring[] {
  const parts = partsOf(rings);
  if (parts.length < 2 || nearerThanMm <= 0) return [...rings];
  const filled = without(closed(rings, nearerThanMm / 2), rings);
  const owner = ownersOf(parts);
  const bridges = partsOf(filled).filter((fill) => {
    if (ringArea(fill.outer) < NOTHING_MM2) return false;
    const touched = new Set<number>();
    for (let k = 0; k < fill.outer.length; k += 2)
      for (const own of owner(fill.outer[k], fill.outer[k + 1])) touched.add(own);
    return touched.size > 1;
  });
  // A hair wider, so that sides that only touch are joined.
  return joined(rings, offset(ringsOfParts(bridges), TOUCH_MM));
}

/** A piece that a disc does not reach, and how many parts of what it does reach it lies between. */
export interface Unreached {
  readonly part: Part;
  readonly touches: number;
}

/** What a disc of a radius does not reach within an area, piece by piece, and how many parts of the rest each touches. */
export const unreached = (rings: Rings, radiusMm: number): Unreached[] =>
  unreachedBeside(rings, opened(rings, radiusMm));

/** What of an area is not in the rest of it, which a disc reaches. */
function unreachedBeside(rings: Rings, rest: Rings): Unreached[] {
  const left = partsOf(without(rings, rest)).filter(({ outer }) => ringArea(outer) > NOTHING_MM2);
  const owner = ownersOf(partsOf(rest));
  return left.map((part) => {
    const touched = new Set<number>();
    for (let k = 0; k < part.outer.length; k += 2)
      for (const own of owner(part.outer[k], part.outer[k + 1])) touched.add(own);
    return { part, touches: touched.size };
  });
}

/** Which parts have their edge at a place, or as good as there. */
function ownersOf(parts: readonly Part[]): (x: number, y: number) => number[] {
  const rings = parts.flatMap(({ outer, holes }, own) => [outer, ...holes].map((ring) => ({ ring, own })));
  const segments = segmentsOf(
    rings.map(({ ring }) => ({ points: closedUp(ring), closed: true })),
    TOUCH_MM,
  );
  return (x, y) => within(segments, x, y, TOUCH_MM).map((s) => rings[segments.line[s]].own);
}

/** Of a disc's radius squared: less is what a disc leaves in a corner, more sticks out of the area as a spike. */
const CORNER_SHARE = 0.25;

/**
 * An area without dents and spikes that a disc of a radius does not reach; it keeps its size. Spikes go first, so that
 * their feet are not filled as dents are. A spike larger than the disc itself is a limb of the art, such as a feeler or a
 * mast: it stays.
 */
export function* smoothed(rings: Rings, radiusMm: number): Work<Ring[]> {
  const [corner, disc] = [CORNER_SHARE * radiusMm * radiusMm, Math.PI * radiusMm * radiusMm];
  const opening = yield* workSlice(twice(rings, -radiusMm), 0, 0.3);
  const spikes = unreachedBeside(rings, opening).filter(({ part, touches }) => {
    const area = ringArea(part.outer);
    return touches < 2 && area > corner && area <= disc;
  });
  yield 0.3;
  // A hair wider, so that nothing is left of them.
  const plain = without(rings, offset(ringsOfParts(spikes.map((s) => s.part)), TOUCH_MM));
  const filled = yield* workSlice(twice(plain, radiusMm), 0.4, 0.6);
  const reached = yield* workSlice(twice(filled, -radiusMm), 0.6, 0.8);
  const limbs = unreachedBeside(filled, reached).filter(
    ({ part, touches }) => touches > 1 || ringArea(part.outer) > disc,
  );
  yield 0.9;
  return joined(reached, offset(ringsOfParts(limbs.map((l) => l.part)), TOUCH_MM));
}

/** An area moved by a distance and back again: closed by a disc outwards, opened by one inwards. */
function* twice(rings: Rings, byMm: number): Work<Ring[]> {
  const moved = offset(rings, byMm);
  yield 0.5;
  return offset(moved, -byMm);
}
